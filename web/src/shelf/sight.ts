/** What of the shelf is looked at, and in which order. */

import type { Schemas } from "../api/client";

export type OnShelf = Schemas["OnShelf"];

export const ORDERS = {
  updated: "latest first",
  name: "by name",
  kind: "by kind",
  verdict: "worst first",
} as const;
export type Order = keyof typeof ORDERS;

export interface Sight {
  search: string;
  kind: string;
  verdict: string;
  tag: string;
  owner: string;
  order: Order;
  list: boolean;
}

export const WHOLE: Sight = {
  search: "",
  kind: "",
  verdict: "",
  tag: "",
  owner: "",
  order: "updated",
  list: false,
};

const GRAVITY = ["unknown", "unusable", "stop", "watch", "clear"];
const names = new Intl.Collator(undefined, { numeric: true, sensitivity: "base" });

const BY: Record<Order, (a: OnShelf, b: OnShelf) => number> = {
  updated: () => 0,
  name: (a, b) => names.compare(a.name, b.name),
  kind: (a, b) => names.compare(a.kind, b.kind) || names.compare(a.name, b.name),
  verdict: (a, b) => GRAVITY.indexOf(a.verdict) - GRAVITY.indexOf(b.verdict),
};

/** Those of the designs that are to be seen, in their order; they come the latest first. */
export function seen(designs: OnShelf[], sight: Sight): OnShelf[] {
  return designs
    .filter(
      ({ kind, verdict, tags, owners }) =>
        (!sight.kind || kind === sight.kind) &&
        (!sight.verdict || verdict === sight.verdict) &&
        (!sight.tag || tags.includes(sight.tag)) &&
        (!sight.owner || owners.includes(sight.owner)),
    )
    .sort(BY[sight.order]);
}

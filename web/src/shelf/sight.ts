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

/** What of a design each filter goes by, and whether it is there while nothing can be chosen in it. */
export const FILTERS = {
  kind: { label: "Kind", of: (design: OnShelf) => [design.kind], always: true },
  verdict: { label: "Verdict", of: (design: OnShelf) => [design.verdict], always: true },
  tag: { label: "Tag", of: (design: OnShelf) => design.tags, always: false },
  owner: { label: "Owner", of: (design: OnShelf) => design.owners, always: false },
};
export type Filter = keyof typeof FILTERS;
const EACH = Object.keys(FILTERS) as Filter[];

export interface Sight extends Record<Filter, string> {
  search: string;
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
    .filter((design) =>
      EACH.every((filter) => !sight[filter] || FILTERS[filter].of(design).includes(sight[filter])),
    )
    .sort(BY[sight.order]);
}

/** What can be chosen in a filter of these designs. */
export function wordsIn(designs: OnShelf[], filter: Filter): string[] {
  return [...new Set(designs.flatMap(FILTERS[filter].of))].sort();
}

/** The filters that stand above these designs. */
export function filtersOf(designs: OnShelf[]): { filter: Filter; words: string[] }[] {
  return EACH.map((filter) => ({ filter, words: wordsIn(designs, filter) })).filter(
    ({ filter, words }) => FILTERS[filter].always || words.length > 0,
  );
}

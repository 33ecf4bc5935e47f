/** What a spring has to do, as typed: from the fields to the wish that the server searches by. */

import type { Wish } from "../api/client";
import { typedValue, type LengthUnit } from "../look/numbers";

export type Kind = NonNullable<Wish["kind"]>;

/** What tells a load of each kind, its units, and which of two comes first. */
export const LOADS: Record<Kind, { place: "length" | "angle"; effort: "force" | "torque" }> = {
  compression: { place: "length", effort: "force" },
  nest: { place: "length", effort: "force" },
  extension: { place: "length", effort: "force" },
  torsion: { place: "angle", effort: "torque" },
};

/** What may be bounded: the figure, its title, and what its bounds count in. */
export const BOUNDED = [
  ["wire_diameter", "wire", "length"],
  ["mean_diameter", "mean diameter", "length"],
  ["outside_diameter", "outside diameter", "length"],
  ["inside_diameter", "inside diameter", "length"],
  ["free_length", "free length", "length"],
  ["solid_length", "solid length", "length"],
  ["block_force", "force at solid length", "N"],
  ["frequency", "natural frequency", "Hz"],
  ["turns", "turns", ""],
  ["index", "index", ""],
  ["mass", "mass", "g"],
  ["stress", "stress", "MPa"],
] as const;

export interface Bound {
  figure: (typeof BOUNDED)[number][0];
  least: string;
  most: string;
}

/** The fields of a duty by their places in the wish; those of loads by place and effort, whatever tells them. */
export interface Typed {
  bore: string;
  rod: string;
  gap: string;
  longest: string;
  cycles: string;
  places: [string, string];
  efforts: [string, string];
  stock: string;
  prices: string;
  bounds: Bound[];
}

const UNTOLD = { longest: "", cycles: "", stock: "", prices: "", bounds: [] };

/** A duty to begin with, in millimetres. */
export const FIRST: Record<Kind, Typed> = {
  compression: {
    ...UNTOLD,
    bore: "24",
    rod: "12",
    gap: "0.5",
    places: ["40", "28"],
    efforts: ["30", "90"],
  },
  nest: {
    ...UNTOLD,
    bore: "42",
    rod: "16",
    gap: "0.4",
    places: ["48", "38"],
    efforts: ["300", "760"],
  },
  extension: {
    ...UNTOLD,
    bore: "30",
    rod: "",
    gap: "0.5",
    places: ["70", "95"],
    efforts: ["25", "60"],
  },
  torsion: {
    ...UNTOLD,
    bore: "40",
    rod: "14",
    gap: "0.5",
    places: ["30", "110"],
    efforts: ["300", "900"],
  },
};

export type Chosen = Pick<Wish, "kind" | "peened" | "seat" | "wires" | "rank" | "turns">;

function value(text: string) {
  return text.trim() ? typedValue(text) : undefined;
}

/** The diameters in a text or a CSV: of each line or entry the first number. */
export function stockOf(text: string): (number | string)[] {
  return text
    .split(/[;\n]+|\s{2,}/)
    .map((line) => line.split(/[,\t]/).find((cell) => /\d/.test(cell) && !/[a-z]{3}/i.test(cell)))
    .flatMap((cell) => (cell ? [typedValue(cell.trim())] : []));
}

/** Prices a kilogram by the name of the wire: of each line or entry the last number, and what stands before it. */
export function pricesOf(text: string): Record<string, number> {
  const lines = text
    .split(/[;\n]+/)
    .map((line) => line.match(/^\s*(.+?)[\s,:=]+(\d+[.,]?\d*)\s*$/));
  return Object.fromEntries(
    lines.flatMap((found) => (found ? [[found[1]!, Number(found[2]!.replace(",", "."))]] : [])),
  );
}

/** The wish of what is typed and chosen. */
export function wishOf(typed: Typed, chosen: Chosen, unit: LengthUnit): Wish {
  const { place, effort } = LOADS[chosen.kind ?? "compression"];
  const load = (k: 0 | 1) => ({
    [place]: value(typed.places[k]) ?? "",
    [effort]: value(typed.efforts[k]) ?? "",
  });
  return {
    format: "metaspira/1",
    unit,
    ...chosen,
    loads: [load(0), load(1)],
    bore: value(typed.bore),
    rod: value(typed.rod),
    gap: value(typed.gap) ?? 0,
    longest: value(typed.longest),
    cycles: value(typed.cycles),
    stock: stockOf(typed.stock),
    prices: pricesOf(typed.prices),
    limits: typed.bounds
      .filter(({ least, most }) => least.trim() || most.trim())
      .map(({ figure, least, most }) => ({ figure, least: value(least), most: value(most) })),
  };
}

import type { FoundSpring } from "../api/client";

/** How many springs stand beside each other at the most. */
export const MOST_BESIDE = 3;

interface Figure {
  title: string;
  /** Its base unit; none of a plain number. */
  base: string;
  most: number;
  of: (spring: FoundSpring) => number | null;
}

/** What springs are compared by, in the order of use. */
export const FIGURES: readonly Figure[] = [
  { title: "Wire diameter", base: "mm", most: 4, of: (one) => one.wire_diameter },
  { title: "Mean diameter", base: "mm", most: 4, of: (one) => one.mean_diameter },
  { title: "Turns", base: "", most: 4, of: (one) => one.turns },
  { title: "Free length", base: "mm", most: 4, of: (one) => one.free_length },
  { title: "Length at work", base: "mm", most: 4, of: (one) => one.at_work },
  { title: "Mass", base: "g", most: 4, of: (one) => one.mass },
  { title: "Price", base: "", most: 3, of: (one) => one.price },
  { title: "Stress at the second load", base: "MPa", most: 4, of: (one) => one.stress },
  { title: "Most used limit", base: "%", most: 3, of: (one) => 100 * one.use },
];

/** What tells a spring from the others that were found. */
export function keyOf(one: FoundSpring): string {
  const { wire, wire_diameter, mean_diameter, turns, inner } = one;
  return JSON.stringify([wire, wire_diameter, mean_diameter, turns, inner]);
}

/** The chosen ones with one more, or without it; the last of as many as stand beside each other. */
export function toggled(keys: string[], key: string): string[] {
  if (keys.includes(key)) return keys.filter((one) => one !== key);
  return [...keys, key].slice(-MOST_BESIDE);
}

/** By how much each value departs from the first, in percent; nothing where it does not, or is not known. */
export function differences(values: (number | null)[]): string[] {
  const [first] = values;
  return values.map((value) => {
    if (value === null || first == null || first === 0) return "";
    const off = 100 * (value / first - 1);
    if (Math.abs(off) < 0.05) return "";
    return `${off > 0 ? "+" : "−"}${Math.abs(off).toFixed(1)} %`;
  });
}

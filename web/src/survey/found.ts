/** What a survey found, as the charts read it. */

import type { Found } from "../api/client";
import { unitShown, type LengthUnit } from "../look/numbers";

export interface ShownColumn {
  key: string;
  title: string;
  unit: string;
  values: (number | null)[];
}

export const NO_COLUMN: ShownColumn = { key: "", title: "", unit: "", values: [] };

/** Every figure and check that has a number at some point and does not stay the same: those of use in a chart. */
export function columnsOf(found: Found): ShownColumn[] {
  const all = [
    ...Object.entries(found.figures),
    ...Object.entries(found.checks).map(
      ([name, column]) =>
        [`check-${name}`, { ...column, title: `Check: ${column.title}` }] as const,
    ),
  ];
  return all
    .map(([key, { title, unit, values }]) => ({ key, title, unit, values }))
    .filter(({ values }) => {
      const numbers = values.filter((value) => value !== null);
      const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
      return high - low > 1e-9 * Math.max(Math.abs(low), Math.abs(high));
    });
}

/** The inputs' values at a point; points run through the last input first. */
export function pointAt(found: Found, point: number): number[] {
  const [, inner] = found.steps;
  return inner
    ? [found.steps[0]![Math.floor(point / inner.length)]!, inner[point % inner.length]!]
    : [found.steps[0]![point]!];
}

/** A column's values in the unit of the recipe, as numbers to draw. */
export function inUnit(column: ShownColumn, length: LengthUnit): (number | null)[] {
  const { size } = unitShown(column.unit, length);
  return column.values.map((value) => (value === null ? null : value / size));
}

/** A name with its unit, that of a length as the recipe has it. */
export function titled(words: string, unit: string, length?: LengthUnit): string {
  const told = length ? unitShown(unit, length).unit : unit;
  return told ? `${words}, ${told}` : words;
}

/** Numbers as they are shown: sensible digits, the unit beside them, inches where the recipe is in inches. */

import table from "../generated/units.json";

export type LengthUnit = keyof typeof table;

/** From which value on, how many base units one shown unit is, and its name, by unit of length and base unit. */
const UNITS = table as unknown as Record<
  LengthUnit,
  Record<string, [least: number, size: number, unit: string][]>
>;

/** Millimetres in one of each unit. */
export const MM = Object.fromEntries(
  Object.entries(UNITS).map(([length, units]) => [length, units.mm![0]![1]]),
) as Record<LengthUnit, number>;

/** A length in mm as a recipe in that unit keeps it, in so many digits. */
export function typedLength(mm: number, unit: LengthUnit, digits: number): number {
  return Number((mm / MM[unit]).toPrecision(digits));
}

const MINUS = "−";

/** `value` with about five digits, never in exponents for everyday sizes, with a true minus sign. */
export function digits(value: number, most = 5): string {
  if (!Number.isFinite(value)) return "–";
  const size = Math.abs(value);
  if (size < 1e-9) return "0";
  if (size >= 1e9 || size < 1e-6) return value.toExponential(2).replaceAll("-", MINUS);
  const whole = size < 1 ? 1 : Math.floor(Math.log10(size)) + 1;
  const decimals = Math.max(0, Math.min(4, most - whole));
  const text = value
    .toFixed(decimals)
    .replace(/(\.\d*?)0+$/, "$1")
    .replace(/\.$/, "");
  return (text === "-0" ? "0" : text).replace("-", MINUS);
}

/** What a base unit (mm, mm², mm³, N, MPa, g, °, …) is shown as beside a unit of length, and how many base units one of it
 * is; for a value, in the unit of its size. */
export function unitShown(
  base: string,
  length: LengthUnit,
  value = 0,
): { size: number; unit: string } {
  const rows = UNITS[length][base];
  const row =
    (value && rows?.findLast(([least]) => least <= Math.abs(value))) ||
    (rows?.find(([, , unit]) => unit === base) ?? rows?.[0]);
  return row ? { size: row[1], unit: row[2] } : { size: 1, unit: base };
}

/** A figure in base units as number and unit beside a unit of length. */
export function shown(
  value: number | null,
  base: string,
  length: LengthUnit,
  most?: number,
): { number: string; unit: string } {
  if (value === null) return { number: "–", unit: "" };
  const { size, unit } = unitShown(base, length, value);
  return { number: digits(value / size, most), unit };
}

/** Figures beside each other, all in the unit that the greatest of them is shown in. */
export function shownAlike(
  values: readonly (number | null)[],
  base: string,
  length: LengthUnit,
  most?: number,
): { numbers: string[]; unit: string } {
  const known = values.filter((value) => value !== null).map(Math.abs);
  const { size, unit } = unitShown(base, length, Math.max(0, ...known));
  const numbers = values.map((value) => (value === null ? "–" : digits(value / size, most)));
  return { numbers, unit };
}

/** The same in one text. */
export function told(value: number, base: string, length: LengthUnit, most?: number): string {
  const { number, unit } = shown(value, base, length, most);
  return unit ? `${number} ${unit}` : number;
}

/** A length in mm with its unit, in one text. */
export function lengthText(value: number, length: LengthUnit): string {
  return told(value, "mm", length);
}

/** What was typed, as a recipe keeps it: a number where it is one, the text where it is a formula. */
export function typedValue(text: string): number | string {
  const number = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(text.trim()) ? Number(text) : NaN;
  return Number.isFinite(number) ? number : text;
}

/** A value as somebody would type it. */
export const threeDigits = (value: number) => Number(value.toPrecision(3));

/** Bytes, in units of their size. */
export function sizeText(bytes: number): string {
  const unit = bytes < 1e6 ? ([1e3, "kB"] as const) : ([1e6, "MB"] as const);
  const value = bytes / unit[0];
  return `${value < 10 ? value.toFixed(1) : Math.round(value)} ${unit[1]}`;
}

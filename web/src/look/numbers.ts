/** Numbers as they are shown: sensible digits, the unit beside them, inches where the recipe is in inches. */

export type LengthUnit = "mm" | "cm" | "m" | "in";

/** Millimetres in one of each unit. */
export const MM: Record<LengthUnit, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 };

/** A length in mm as a recipe in that unit keeps it, in so many digits. */
export function typedLength(mm: number, unit: LengthUnit, digits: number): number {
  return Number((mm / MM[unit]).toPrecision(digits));
}

const MINUS = "−";

/** `value` with about five digits, never in exponents for everyday sizes, with a true minus sign. */
export function digits(value: number, most = 5): string {
  if (!Number.isFinite(value)) return "–";
  const size = Math.abs(value);
  if (size !== 0 && (size >= 1e9 || size < 1e-6)) return value.toExponential(2).replace("-", MINUS);
  const whole = size < 1 ? 1 : Math.floor(Math.log10(size)) + 1;
  const decimals = Math.max(0, Math.min(4, most - whole));
  const text = value
    .toFixed(decimals)
    .replace(/(\.\d*?)0+$/, "$1")
    .replace(/\.$/, "");
  return (text === "-0" ? "0" : text).replace("-", MINUS);
}

/** A figure in base units (mm, mm², mm³, g, °) as number and unit in the recipe's unit of length. */
export function shown(
  value: number | null,
  unit: string,
  length: LengthUnit,
): { number: string; unit: string } {
  if (value === null) return { number: "–", unit: "" };
  const power = unit === "mm" ? 1 : unit === "mm²" ? 2 : unit === "mm³" ? 3 : 0;
  if (power === 0) return { number: digits(value), unit };
  const suffix = power === 1 ? "" : power === 2 ? "²" : "³";
  return { number: digits(value / MM[length] ** power), unit: length + suffix };
}

/** A length in mm with its unit, in one text. */
export function lengthText(value: number, length: LengthUnit): string {
  const { number, unit } = shown(value, "mm", length);
  return `${number} ${unit}`;
}

/** What was typed, as a recipe keeps it: a number where it is one, the text where it is a formula. */
export function typedValue(text: string): number | string {
  const trimmed = text.trim();
  return /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(trimmed) ? Number(trimmed) : text;
}

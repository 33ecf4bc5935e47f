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

/** Newtons in a pound-force, by the international pound and the standard gravity. */
const LBF = 4.4482216152605;

/** What units of force and stress are shown as where lengths are in inches, and how many of them one is. */
const INCHES: Record<string, [size: number, unit: string]> = {
  N: [LBF, "lbf"],
  "N/mm": [LBF / 25.4, "lbf/in"],
  "N mm": [LBF * 25.4, "lbf in"],
  "N mm/°": [LBF * 25.4, "lbf in/°"],
  MPa: [(1000 * LBF) / 25.4 ** 2, "ksi"],
};

/** What a base unit (mm, mm², mm³, N, MPa, °, …) is shown as beside a unit of length, and how many base units one of it is. */
export function unitShown(unit: string, length: LengthUnit): { size: number; unit: string } {
  const power = { mm: 1, "mm²": 2, "mm³": 3 }[unit];
  if (power) return { size: MM[length] ** power, unit: length + ["", "²", "³"][power - 1]! };
  const [size, own] = (length === "in" && INCHES[unit]) || [1, unit];
  return { size, unit: own };
}

/** A figure in base units as number and unit beside a unit of length. */
export function shown(
  value: number | null,
  base: string,
  length: LengthUnit,
  most?: number,
): { number: string; unit: string } {
  if (value === null) return { number: "–", unit: "" };
  const { size, unit } = unitShown(base, length);
  return { number: digits(value / size, most), unit };
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
  const trimmed = text.trim();
  return /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(trimmed) ? Number(trimmed) : text;
}

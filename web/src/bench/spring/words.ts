/** How the place and the effort of a spring are called, typed and shown, by its kind. */

import type { Recipe, Spring } from "../../api/client";
import { MM, digits, lengthText, told, type LengthUnit } from "../../look/numbers";

export type Asked = NonNullable<Recipe["spring"]>;
export type Told = "length" | "force" | "angle" | "torque" | "travel";

/** What a working point of a kind is told by: its place, its effort, or how far it is from free. */
export const TOLD: Record<Asked["kind"], readonly [Told, Told, ...Told[]]> = {
  compression: ["length", "force", "travel"],
  extension: ["length", "force", "travel"],
  torsion: ["angle", "torque"],
  spiral: ["angle", "torque"],
};

/** The unit that each is typed in. */
export function unitOf(told: Told, unit: LengthUnit): string {
  return { length: unit, travel: unit, force: "N", angle: "°", torque: "N mm" }[told];
}

/** What a working point is told by. */
export function toldBy(kind: Asked["kind"], point: object): Told {
  const given = point as Partial<Record<Told, unknown>>;
  return TOLD[kind].find((told) => given[told] != null) ?? TOLD[kind][0];
}

/** How many of the API's units one typed unit of the place is. */
export function placeScale(spring: Spring, unit: LengthUnit): number {
  return spring.units[0] === "mm" ? MM[unit] : 1;
}

export function placeText(spring: Spring, place: number, unit: LengthUnit): string {
  return spring.units[0] === "mm" ? lengthText(place, unit) : `${digits(place)}°`;
}

export function effortText(spring: Spring, effort: number, unit: LengthUnit): string {
  return told(effort, spring.units[1]!, unit);
}

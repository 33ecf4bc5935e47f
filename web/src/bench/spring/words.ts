/** How the place and the effort of a spring are called, typed and shown, by its kind. */

import type { Recipe, Spring } from "../../api/client";
import { MM, digits, lengthText, told, type LengthUnit } from "../../look/numbers";

export type Asked = NonNullable<Recipe["spring"]>;
export type Told = "length" | "force" | "angle" | "torque";

/** What a working point of a kind is told by: its place, or its effort. */
export const TOLD: Record<Asked["kind"], readonly [Told, Told]> = {
  compression: ["length", "force"],
  extension: ["length", "force"],
  torsion: ["angle", "torque"],
  spiral: ["angle", "torque"],
};

/** The unit that each is typed in. */
export function unitOf(told: Told, unit: LengthUnit): string {
  return { length: unit, force: "N", angle: "°", torque: "N mm" }[told];
}

/** What a working point is told by. */
export function toldBy(kind: Asked["kind"], point: object): Told {
  const [place, effort] = TOLD[kind];
  const value = (point as Partial<Record<Told, unknown>>)[effort];
  return value === undefined || value === null ? place : effort;
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

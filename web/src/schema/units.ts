/** What a field counts in, and by how much an arrow key steps it. */

import type { LengthUnit } from "../look/numbers";
import type { Node } from "./schema";

const STEPS: Record<string, number> = {
  length: 0.1,
  angle: 5,
  count: 1,
  turns: 0.5,
  number: 0.05,
  force: 1,
};

export function unitOf(field: Node, length: LengthUnit): string {
  const quantity = field["x-quantity"] ?? field["x-formula"];
  return (
    field["x-unit"] ??
    { length, angle: "°", radian: "rad", force: "N", mass: "g" }[quantity ?? ""] ??
    ""
  );
}

export function stepOf(field: Node): number {
  return STEPS[field["x-quantity"] ?? ""] ?? 0.1;
}

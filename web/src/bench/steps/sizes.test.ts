import { describe, expect, it } from "vitest";
import { sizesNow } from "./sizes";

const square = [
  [-1.27, -1.27],
  [1.27, -1.27],
  [1.27, 1.27],
  [-1.27, 1.27],
];
const report = { section: { across: [square], axial: null }, figures: { section_area: 6.4516 } };

describe("what a section comes to, in the unit that a recipe is typed in", () => {
  it.each([
    ["mm", 2.54, 10.2, 6.45],
    ["cm", 0.254, 1.02, 0.0645],
    ["m", 0.00254, 0.0102, 0.00000645],
    ["in", 0.1, 0.4, 0.01],
  ] as const)("in %s", (unit, diameter, perimeter, area) => {
    expect(sizesNow(report as never, unit)).toEqual({ size: 1, diameter, perimeter, area });
  });

  it("is of the same size in any unit where nothing is known yet", () => {
    expect(sizesNow(null, "mm").diameter).toBe(10);
    expect(sizesNow(null, "in").diameter).toBeCloseTo(0.394, 3);
  });
});

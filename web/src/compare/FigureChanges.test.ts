import { describe, expect, it } from "vitest";
import { change } from "./FigureChanges";

const of = (before: number | null, after: number | null) =>
  change({ name: "", title: "", unit: "mm", before, after }, "mm");

describe("a figure's change", () => {
  it("has its sign, and is nothing where it is rounding or one side is not known", () => {
    expect([of(6, 7), of(7, 6), of(6, 6), of(null, 6)]).toEqual(["+1", "−1", "0", ""]);
    expect([of(2667.03, 2667.03 - 1.27e-7), of(29.434, 29.434 + 1.13e-8)]).toEqual(["0", "0"]);
    expect(of(0, 1e-12)).toBe("0");
  });
});

import { describe, expect, it } from "vitest";
import { levelsOf } from "./contours";

const grid = (across: number, up: number, of: (i: number, j: number) => number | null) =>
  Array.from({ length: across * up }, (_, k) => of(k % across, Math.floor(k / across)));

describe("contours of a survey", () => {
  it("lie where the figure has their value", () => {
    const plane = (i: number, j: number) => 2 * i + 3 * j;
    const levels = levelsOf(grid(8, 6, plane), 8, 6);
    expect(levels.length).toBeGreaterThan(3);
    for (const { value, runs } of levels)
      for (const [x, y] of runs.flat()) expect(plane(x, y)).toBeCloseTo(value, 9);
  });

  it("are not drawn along the edge or through what is not known", () => {
    const levels = levelsOf(
      grid(7, 7, (i, j) => (i < 3 ? null : i + j)),
      7,
      7,
    );
    const places = levels.flatMap(({ runs }) => runs.flat());
    expect(places.length).toBeGreaterThan(0);
    for (const [x, y] of places) {
      expect(x).toBeGreaterThanOrEqual(3);
      expect(Math.max(x, y)).toBeLessThanOrEqual(6);
    }
  });

  it("are none of a single row, or while a survey runs", () => {
    expect(levelsOf([1, 2, 3], 3, 1)).toEqual([]);
    expect(levelsOf([1, 2, 3, 4], 3, 2)).toEqual([]);
  });
});

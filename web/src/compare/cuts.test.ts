import { BoxGeometry, Color } from "three";
import { expect, test } from "vitest";
import { acrossAxis, cut, throughAxis, type Segment } from "./cuts";

const box = {
  geometry: new BoxGeometry(30, 20, 10),
  body: 0,
  paint: null,
  look: new Color(),
};

function length(segments: Segment[]): number {
  return segments.reduce((sum, [a, b, c, d]) => sum + Math.hypot(c - a, d - b), 0);
}

test("a box is cut in its outline, through its axis and across it", () => {
  expect(length(cut([box], throughAxis(0)))).toBeCloseTo(2 * (30 + 10), 6);
  expect(length(cut([box], throughAxis(90)))).toBeCloseTo(2 * (20 + 10), 6);
  expect(length(cut([box], acrossAxis(3)))).toBeCloseTo(2 * (30 + 20), 6);
  expect(cut([box], acrossAxis(6))).toEqual([]);
});

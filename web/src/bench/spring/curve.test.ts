import { expect, test } from "vitest";
import { forceAt, lengthAt } from "./curve";

const curve = [
  [50, 0],
  [40, 20],
  [20, 100],
];

test("a diagram is read both ways, and held to its ends", () => {
  expect(forceAt(curve, 45)).toBeCloseTo(10);
  expect(forceAt(curve, 30)).toBeCloseTo(60);
  expect(forceAt(curve, 60)).toBe(0);
  expect(forceAt(curve, 10)).toBe(100);
  expect(lengthAt(curve, 60)).toBeCloseTo(30);
  expect(lengthAt(curve, 200)).toBe(20);
});

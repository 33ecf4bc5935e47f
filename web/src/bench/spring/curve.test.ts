import { expect, test } from "vitest";
import { forceAt } from "./curve";

const curve = [
  [50, 0],
  [40, 20],
  [20, 100],
];

test("a diagram is read whether its lengths fall or grow, and held to its ends", () => {
  expect(forceAt(curve, 45)).toBeCloseTo(10);
  expect(forceAt(curve, 30)).toBeCloseTo(60);
  expect(forceAt(curve, 60)).toBe(0);
  expect(forceAt(curve, 10)).toBe(100);
  const pulls = [
    [50, 0],
    [50, 10],
    [60, 30],
  ];
  expect(forceAt(pulls, 55)).toBeCloseTo(20);
});

import { expect, test } from "vitest";
import { sharpError } from "./sharp";

test("a mesh is refined as the eye comes near, and not for each small step", () => {
  const fitted = 0.1;
  expect(sharpError(0.1, fitted)).toBeNull();
  expect(sharpError(0.05, fitted)).toBeNull();
  const near = sharpError(0.02, fitted)!;
  expect(near).toBeLessThanOrEqual(0.4 * 0.02);
  expect(near).toBeGreaterThan(0.2 * 0.02);
  expect(sharpError(0.0199, fitted)).toBe(near);
  expect(sharpError(0.002, fitted)!).toBeLessThan(near / 8);
  expect(sharpError(NaN, fitted)).toBeNull();
});

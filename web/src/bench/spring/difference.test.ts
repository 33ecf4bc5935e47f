import { expect, it } from "vitest";
import { difference } from "./difference";

it("tells how far a value is from another", () => {
  expect(difference(8, 8.8)).toBe("+10.0 %");
  expect(difference(50, 49)).toBe("−2.0 %");
  expect(difference(0, 0)).toBe("");
  expect(difference(8, 7.9999)).toBe("0.0 %");
});

import { expect, test } from "vitest";
import { bounded, LANE, MOST } from "./laneHeight";

test("a lane is never lower than at first, nor out of all measure", () => {
  expect([-5, 40.4, 1e6, NaN].map(bounded)).toEqual([LANE, 40, MOST, LANE]);
});

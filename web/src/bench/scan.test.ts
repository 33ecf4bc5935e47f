import { describe, expect, it } from "vitest";
import { colourAt, scanOf, withScan } from "./scan";

describe("the scan over the part", () => {
  const ghost = {
    places: [
      [0, 0, 0],
      [1, 2, 3],
    ],
    off: [-0.5, 0.02],
    rounded: [0, 0.1],
  };
  const deviation = { mean: 0.02, p95: 0.1, max: 0.5 };

  it("is painted by how far each place is off, as it was taken", () => {
    const measured = scanOf(ghost, false, deviation);
    expect([...measured.places]).toEqual([0, 0, 0, 1, 2, 3]);
    expect([...measured.colours.slice(0, 3)]).toEqual([...new Float32Array(colourAt(-1))]);
    const rounded = scanOf(ghost, true, deviation);
    expect([...rounded.colours.slice(0, 3)]).toEqual([...new Float32Array(colourAt(0))]);
    expect([...rounded.colours.slice(3)]).toEqual([...new Float32Array(colourAt(1))]);
  });

  it("is named by the address of the bench", () => {
    expect(withScan("d", "t", true)).toBe("/designs/d?scan=t&rounded=1");
    expect(withScan("d", "t", false)).toBe("/designs/d?scan=t");
  });
});

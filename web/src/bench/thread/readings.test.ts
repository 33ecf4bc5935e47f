import { describe, expect, it } from "vitest";
import { MM } from "../../look/numbers";
import { readingsOf } from "./readings";

describe("readings of a made thread", () => {
  it("are in mm, with a decimal comma or a point", () => {
    expect(
      readingsOf({ crest: "9,95", depth: "0,9", over: " 10.2 ", wire: "0.866" }, MM.mm),
    ).toEqual({
      crest: 9.95,
      depth: 0.9,
      over: 10.2,
      wire: 0.866,
    });
    expect(readingsOf({ pitch_diameter: "0.2175" }, MM.in).pitch_diameter).toBeCloseTo(5.5245, 9);
  });

  it("leave out what is empty or no number, and take flanks together", () => {
    expect(readingsOf({ crest: "", over: "ten", trailing_error: "−0.5" }, MM.mm)).toEqual({
      flank_errors: [0, -0.5],
    });
  });
});

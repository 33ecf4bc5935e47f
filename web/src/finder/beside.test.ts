import { describe, expect, it } from "vitest";
import { differences, toggled } from "./beside";

describe("springs side by side", () => {
  it("are three at the most, the last that were chosen", () => {
    const three = ["a", "b", "c", "d"].reduce(toggled, [] as string[]);
    expect(three).toEqual(["b", "c", "d"]);
    expect(toggled(three, "c")).toEqual(["b", "d"]);
  });

  it("are told by how much they depart from the first", () => {
    expect(differences([20, 25, 18, 20.001, null])).toEqual(["", "+25.0 %", "−10.0 %", "", ""]);
    expect(differences([null, 3])).toEqual(["", ""]);
    expect(differences([0, 3])).toEqual(["", ""]);
  });
});

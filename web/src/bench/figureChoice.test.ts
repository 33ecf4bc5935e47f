import { describe, expect, it } from "vitest";
import { AS_USUAL, inOrder, isThere, moved, put } from "./figureChoice";

const figures = ["rate", "wire_length", "pitch", "mass"].map((name) => ({
  name,
  usual: name !== "pitch",
}));
const names = (choice = AS_USUAL, of = figures) => inOrder(of, choice).map(({ name }) => name);

describe("the figures beside the part", () => {
  it("stand as usual where nobody chose", () => {
    expect(names()).toEqual(["rate", "wire_length", "pitch", "mass"]);
    expect(figures.filter((one) => isThere(one, AS_USUAL)).length).toBe(3);
  });

  it("are put there and taken away, and nothing is kept of what is usual", () => {
    const chosen = put(put(AS_USUAL, figures[2]!, true), figures[3]!, false);
    expect(figures.filter((one) => isThere(one, chosen)).map(({ name }) => name)).toEqual([
      "rate",
      "wire_length",
      "pitch",
    ]);
    expect(put(put(chosen, figures[2]!, false), figures[3]!, true)).toEqual(AS_USUAL);
  });

  it("are moved, and others of another part keep their places", () => {
    const up = moved(moved(AS_USUAL, figures, "mass", -1), figures, "mass", -1);
    expect(names(up)).toEqual(["rate", "mass", "wire_length", "pitch"]);
    expect(moved(up, figures, "rate", -1)).toBe(up);
    const other = [...figures.slice(0, 2), { name: "lead", usual: true }, ...figures.slice(3)];
    expect(names(up, other)).toEqual(["rate", "mass", "wire_length", "lead"]);
    expect(moved(up, other, "lead", -1).order).toContain("pitch");
  });
});

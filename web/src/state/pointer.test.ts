import { describe, expect, it } from "vitest";
import { at, differAt, put } from "./pointer";

describe("pointers", () => {
  const recipe = { path: { turns: 8, pitch: "2 * wire" }, section: { rides_at: [1, 2] } };
  it("reads what is there and nothing where nothing is", () => {
    expect(at(recipe, "/path/pitch")).toBe("2 * wire");
    expect(at(recipe, "/along/size/from")).toBeUndefined();
  });
  it("sets, makes and removes places without touching the original", () => {
    expect(put(recipe, "/along/size/from", 1)).toHaveProperty("along.size.from", 1);
    expect(put(recipe, "/section/rides_at/1", 5).section.rides_at).toEqual([1, 5]);
    expect(put(recipe, "/path/pitch", undefined).path).toEqual({ turns: 8 });
    expect(recipe.path.pitch).toBe("2 * wire");
  });
});

describe("where two recipes differ", () => {
  const recipe = { path: { turns: 8, pitch: 6 }, wires: [{ "a/b": 1 }] };
  it("is the deepest place that holds every difference", () => {
    expect(differAt(recipe, put(recipe, "/path/pitch", 7))).toBe("/path/pitch");
    expect(differAt(recipe, put(recipe, "/path/pitch", undefined))).toBe("/path/pitch");
    expect(differAt(recipe, { ...recipe, path: { turns: 9, pitch: 7 } })).toBe("/path");
    expect(differAt(recipe, put(recipe, "/wires/0/a~1b", 2))).toBe("/wires/0/a~1b");
    expect(differAt(recipe, structuredClone(recipe))).toBeNull();
  });
});

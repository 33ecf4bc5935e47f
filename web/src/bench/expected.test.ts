import { describe, expect, it } from "vitest";
import type { AnyRecipe, Said } from "../api/client";
import { weighSentence } from "./expected";

const report = (mass: number, verdict: string) =>
  ({ figures: { mass }, checks: [{ id: "expected-mass", verdict }] }) as unknown as Said;
const recipe = (unit: string, expected = {}) => ({ unit, expected }) as unknown as AnyRecipe;

describe("what the part weighs, in a sentence", () => {
  it("is in the unit of its size", () => {
    expect(weighSentence(recipe("mm"), report(74_726, "clear"))).toBe("74.726 kg");
    expect(weighSentence(recipe("in"), report(453.59237, "clear"))).toBe("1 lb");
  });
  it("says how much of what is expected is met, and nothing of a recipe that is not usable", () => {
    const asked = recipe("mm", { mass: { value: 20 } });
    expect(weighSentence(asked, report(19, "watch"))).toBe("19 g; 0 of 1 as expected");
    expect(weighSentence(asked, null)).toBe("1 expected, not compared yet");
  });
});

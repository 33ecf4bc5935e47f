import { describe, expect, it } from "vitest";
import { seen, WHOLE, type OnShelf } from "./sight";

const design = (name: string, kind: string, verdict: string) =>
  ({ id: name, name, kind, verdict }) as OnShelf;
const shelf = [
  design("Knob 10", "thread", "clear"),
  design("Knob 9", "thread", "stop"),
  design("bumper", "compression spring", "watch"),
];
const names = (change: Partial<typeof WHOLE>) =>
  seen(shelf, { ...WHOLE, ...change }).map((one) => one.name);

describe("what is seen of the shelf", () => {
  it("keeps the order in which it comes", () => {
    expect(names({})).toEqual(["Knob 10", "Knob 9", "bumper"]);
  });
  it("is in the order of names as people count, or the worst first", () => {
    expect(names({ order: "name" })).toEqual(["bumper", "Knob 9", "Knob 10"]);
    expect(names({ order: "verdict" })).toEqual(["Knob 9", "bumper", "Knob 10"]);
  });
  it("is of one kind or verdict", () => {
    expect(names({ kind: "thread" })).toEqual(["Knob 10", "Knob 9"]);
    expect(names({ kind: "thread", verdict: "clear" })).toEqual(["Knob 10"]);
  });
});

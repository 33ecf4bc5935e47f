import { describe, expect, it } from "vitest";
import { seen, WHOLE, type OnShelf } from "./sight";

const design = (name: string, kind: string, verdict: string, tags: string[], owners: string[]) =>
  ({ id: name, name, kind, verdict, tags, owners }) as OnShelf;
const shelf = [
  design("Knob 10", "thread", "clear", ["lamp"], ["ann"]),
  design("Knob 9", "thread", "stop", ["lamp", "old"], ["ann", "bob"]),
  design("bumper", "compression spring", "watch", [], ["bob"]),
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
  it("has one tag or owner", () => {
    expect(names({ tag: "lamp" })).toEqual(["Knob 10", "Knob 9"]);
    expect(names({ owner: "bob" })).toEqual(["Knob 9", "bumper"]);
    expect(names({ tag: "old", owner: "ann" })).toEqual(["Knob 9"]);
  });
});

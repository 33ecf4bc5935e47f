import { expect, test } from "vitest";
import { Turns } from "./turns";

test("so many work at the same time, the first to come first, and who leaves makes room", () => {
  const turns = new Turns(2);
  const begun: string[] = [];
  const ends = Object.fromEntries(
    ["a", "b", "c", "d", "e"].map((name) => [name, turns.take(() => begun.push(name))]),
  );
  expect(begun).toEqual(["a", "b"]);
  ends.c?.();
  ends.a?.();
  expect(begun).toEqual(["a", "b", "d"]);
  ends.a?.();
  expect(begun).toEqual(["a", "b", "d"]);
  ends.b?.();
  expect(begun).toEqual(["a", "b", "d", "e"]);
});

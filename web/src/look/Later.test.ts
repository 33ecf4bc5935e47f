import { expect, test } from "vitest";
import { Guarded, wordsOf } from "./Later";

test("a fault in the program is not told as a server that is away", () => {
  const fault = new TypeError("Cannot read properties of null");
  expect(Guarded.getDerivedStateFromError(fault)).toEqual({ reason: fault });
  expect(wordsOf(fault)).toContain(
    "fault in the program (TypeError: Cannot read properties of null)",
  );
});

import { expect, test } from "vitest";
import { csvOf } from "./files";

test("a column for each, gaps left open, as RFC 4180 has it", () => {
  const columns = [
    { title: "pitch, mm", values: [2, 3, 4] },
    { title: "gap", values: [-0.5, null, 1.5] },
    { title: 'said "so"', values: ["stop", "clear"] },
  ];
  expect(csvOf(columns)).toBe(
    '"pitch, mm",gap,"said ""so"""\r\n2,-0.5,stop\r\n3,,clear\r\n4,1.5,\r\n',
  );
});

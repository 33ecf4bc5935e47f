import { describe, expect, it } from "vitest";
import { outcomes, type Offered } from "./outcomes";

const STEP: Offered = {
  key: "step",
  what: "Solid",
  title: "STEP, exact solid",
  use: "CAD",
  suffix: ".step",
  built: true,
  misfit: null,
};
const PATH: Offered = { ...STEP, key: "path.csv", what: "Path", title: "CSV", built: false };

describe("what is handed over", () => {
  it("is told with size, proof and hash once the archive holds it", () => {
    const entry = {
      key: "step",
      name: "spring.step",
      what: "Solid",
      unit: "mm",
      bytes: 12_345,
      sha256: "ab12",
      proof: { relative_error: 3.2e-7 },
    };
    const [step, path] = outcomes([STEP, PATH], {
      files: [entry],
      left_out: [{ key: "path.csv", why: "no path" }],
    });
    expect(step).toMatchObject({
      size: "12 kB",
      off: "3e-7",
      sha256: "ab12",
      why: "",
      atOnce: false,
    });
    expect(path).toMatchObject({ size: "", why: "no path", atOnce: true });
  });

  it("says why a part has no such file before anything is made", () => {
    const misfit = { place: "/path", reason: "a thread has no path", remedy: "none", fix: null };
    expect(outcomes([{ ...PATH, misfit }], null)[0]).toMatchObject({
      why: "a thread has no path",
      atOnce: false,
    });
  });
});

import { describe, expect, it } from "vitest";
import { FIRST, pricesOf, stockOf, wishOf } from "./duty";

describe("the duty of a spring", () => {
  it("is told by lengths and forces, or by angles and torques", () => {
    const pushes = wishOf(FIRST.compression, { kind: "compression" }, "mm");
    expect(pushes.loads).toEqual([
      { length: 40, force: 30 },
      { length: 28, force: 90 },
    ]);
    const turns = wishOf(FIRST.torsion, { kind: "torsion" }, "mm");
    expect(turns.loads[0]).toEqual({ angle: 30, torque: 300 });
  });

  it("leaves out what is not typed, and keeps what cannot be a number for the server to refuse", () => {
    const wish = wishOf({ ...FIRST.compression, bore: "", rod: "1 kg" }, {}, "in");
    expect(wish.bore).toBeUndefined();
    expect(wish.rod).toBe("1 kg");
    expect(wish.unit).toBe("in");
  });

  it("reads stock from a list and from a CSV with other columns", () => {
    expect(stockOf("2; 2.5;3")).toEqual([2, 2.5, 3]);
    expect(stockOf("diameter,metres\n1.6,200\n1.8,50\n")).toEqual([1.6, 1.8]);
    expect(stockOf("")).toEqual([]);
  });

  it("sends the bounds that hold a number, as they are typed", () => {
    const bounds = [
      { figure: "stress", least: "", most: "60 ksi" },
      { figure: "mass", least: " ", most: "" },
    ] as const;
    expect(wishOf({ ...FIRST.compression, bounds: [...bounds] }, {}, "mm").limits).toEqual([
      { figure: "stress", least: undefined, most: "60 ksi" },
    ]);
  });

  it("reads prices by the names of wires, which end in numbers themselves", () => {
    expect(pricesOf("EN 10270-1 SH 3.20\nASTM A228: 6,5\n")).toEqual({
      "EN 10270-1 SH": 3.2,
      "ASTM A228": 6.5,
    });
    expect(pricesOf("ASTM A228; EN 10270-1 DM=2")).toEqual({ "EN 10270-1 DM": 2 });
    expect(pricesOf("")).toEqual({});
  });
});

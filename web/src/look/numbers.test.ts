import { describe, expect, it } from "vitest";
import {
  digits,
  lengthText,
  shown,
  shownAlike,
  typedLength,
  typedValue,
  told,
  sizeText,
} from "./numbers";

describe("digits", () => {
  it("shows sensible digits and no trailing zeros", () => {
    expect(digits(12.000000001)).toBe("12");
    expect(digits(3.4728217)).toBe("3.4728");
    expect(digits(50941.23)).toBe("50941");
    expect(digits(-0.04)).toBe("−0.04");
    expect(digits(1200)).toBe("1200");
    expect(digits(0)).toBe("0");
    expect(digits(4.19e-13)).toBe("0");
    expect(digits(-8.32e-8)).toBe("−8.32e−8");
  });
});

describe("shown", () => {
  it("turns lengths, areas and volumes into the recipe's unit", () => {
    expect(shown(25.4, "mm", "in")).toEqual({ number: "1", unit: "in" });
    expect(shown(645.16, "mm²", "in")).toEqual({ number: "1", unit: "in²" });
    expect(shown(453.59237, "g", "in")).toEqual({ number: "1", unit: "lb" });
    expect(shown(null, "mm", "mm").number).toBe("–");
    expect(lengthText(6, "mm")).toBe("6 mm");
  });
});

describe("units by size", () => {
  it("are those that a person would say", () => {
    expect(told(27_676_317, "mm³", "mm")).toBe("27.676 L");
    expect(told(2416, "mm³", "mm")).toBe("2416 mm³");
    expect(told(74_726, "g", "mm")).toBe("74.726 kg");
    expect(told(0.25, "g", "mm")).toBe("250 mg");
    expect(told(0, "g", "mm")).toBe("0 g");
  });
});

describe("figures beside each other", () => {
  it("are in one unit", () => {
    expect(shownAlike([950, 1100, null], "g", "mm")).toEqual({
      numbers: ["0.95", "1.1", "–"],
      unit: "kg",
    });
    expect(shownAlike([null], "mm³", "mm")).toEqual({ numbers: ["–"], unit: "mm³" });
  });
});

describe("typedValue", () => {
  it("keeps what no number can hold as it was typed", () => {
    expect(typedValue("1e999")).toBe("1e999");
    expect(typedValue("2,5")).toBe("2,5");
  });
  it("keeps formulas as text and numbers as numbers", () => {
    expect(typedValue(" 12.5 ")).toBe(12.5);
    expect(typedValue("3/8 in")).toBe("3/8 in");
    expect(typedValue("")).toBe("");
    expect(typedValue("1e3")).toBe(1000);
  });
});

describe("typedLength", () => {
  it("is the same length in every unit", () => {
    expect(typedLength(-0.032, "mm", 6)).toBe(-0.032);
    expect(typedLength(-0.032, "cm", 6)).toBe(-0.0032);
    expect(typedLength(-0.032, "m", 6)).toBe(-0.000032);
    expect(typedLength(3.81, "in", 3)).toBe(0.15);
  });
});

describe("units beside inches", () => {
  it("are pounds-force and kips, of the pound of 0.45359237 kg and 9.80665 m/s²", () => {
    const pound = 0.45359237 * 9.80665;
    expect(told(pound, "N", "in")).toBe("1 lbf");
    expect(told(pound / 25.4, "N/mm", "in")).toBe("1 lbf/in");
    expect(told(25.4 * pound, "N mm", "in")).toBe("1 lbf in");
    expect(told((1000 * pound) / 25.4 ** 2, "MPa", "in")).toBe("1 ksi");
    expect(told(25.4, "mm", "in")).toBe("1 in");
  });
  it("stay as they are beside millimetres, and what has no other unit stays everywhere", () => {
    expect(told(12.5, "N", "mm")).toBe("12.5 N");
    expect(told(12.5, "Hz", "in")).toBe("12.5 Hz");
    expect(told(12.5, "", "in")).toBe("12.5");
  });
});

describe("bytes", () => {
  it("are in kB and MB", () => {
    expect([sizeText(900), sizeText(2_340_000)]).toEqual(["0.9 kB", "2.3 MB"]);
  });
});

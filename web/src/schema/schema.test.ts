import { expect, test } from "vitest";
import schema from "../generated/recipe.schema.json";
import {
  choicesOf,
  fieldOf,
  kindAt,
  kindName,
  kindsAt,
  ownFields,
  placeWords,
  specAt,
} from "./schema";
import { stepOf, unitOf } from "./units";

const coil = {
  format: "metaspira/1",
  unit: "in",
  path: {
    kind: "coil",
    diameter: { points: [[0, 1] as const] },
    turns: 4,
    legs: { start: [{ kind: "arc", radius: 1, angle: 90, side: 30 }] },
  },
  section: { kind: "star", points: 5, outer_diameter: 1, inner_diameter: 0.5 },
  wires: [{ path: { kind: "straight", length: 3 }, section: { kind: "round", diameter: 1 } }],
  spring: { kind: "torsion", points: [{ torque: 5 }] },
};
const thread = { format: "metaspira/1", thread: { designation: "M10" }, host: { kind: "rod" } };

test("a field is known by its place, through the kind that stands there", () => {
  expect(specAt(coil, "/section/outer_diameter")).toMatchObject({
    title: "Outer diameter",
    "x-quantity": "length",
    optional: false,
  });
  expect(specAt(coil, "/section/fillet").optional).toBe(true);
  expect(specAt(coil, "/wires/0/path/length")["x-quantity"]).toBe("length");
  expect(specAt(coil, "/path/diameter/points/0/1")["x-quantity"]).toBe("length");
  expect(specAt(coil, "/path/legs/start/0/side")["x-quantity"]).toBe("angle");
  expect(specAt(coil, "/path/end_diameter").optional).toBe(true);
  expect(specAt(thread, "/host/length").title).toBe("Length");
  expect(specAt(coil, "/nowhere/at/all").title).toBeUndefined();
});

test("kinds are offered with their titles, the first ones first", () => {
  expect(kindsAt(coil, "/section")[0]).toEqual(["round", "round"]);
  expect(kindsAt(coil, "/section").at(-1)).toEqual(["blend", "several that blend"]);
  expect(kindsAt(coil, "/section/holes/0").map(([kind]) => kind)).not.toContain("tube");
  expect(kindsAt(thread, "/thread/start").map(([kind]) => kind)).toContain("undercut");
  expect(kindName(coil, "/path/legs/end/0", "hook")).toBe("HookLeg");
  expect(kindAt(coil, "/path", "wrap")["x-stance"]).toBe("seated");
});

test("what a kind has of its own stands after its kind", () => {
  const keys = (place: string) => ownFields(coil, place).map((field) => field.key);
  expect(keys("/section")).toEqual(["points", "outer_diameter", "inner_diameter", "fillet"]);
  expect(keys("/spring")).toEqual(["held", "by", "peened", "made"]);
  const side = ownFields(coil, "/path/legs/start/0").find((field) => field.key === "side")!;
  expect(side["x-quantity"]).toBe("angle");
});

test("choices are told in words", () => {
  expect(choicesOf(fieldOf("Recipe", "unit"))).toContainEqual(["in", "inches"]);
  expect(choicesOf(fieldOf("Recipe", "material"))).toContainEqual(["polyamide", "Polyamide 12"]);
  expect(choicesOf(specAt(coil, "/path/diameter_at"))).toContainEqual(["outside", "outside"]);
});

test("a field counts in its unit", () => {
  expect(unitOf(specAt(coil, "/section/outer_diameter"), "in")).toBe("in");
  expect(unitOf(specAt(coil, "/path/start_angle"), "in")).toBe("°");
  expect(unitOf(specAt(coil, "/spring/temperature"), "in")).toBe("°C");
  expect(unitOf(specAt(coil, "/spring/points/0/torque"), "mm")).toBe("N mm");
  expect(stepOf(specAt(coil, "/section/points"))).toBe(1);
});

test("every number of every kind has a title", () => {
  const kinds = Object.values(schema.$defs as Record<string, { properties?: object }>).filter(
    ({ properties }) => properties && "kind" in properties,
  );
  expect(kinds.length).toBeGreaterThan(50);
  for (const { properties } of kinds)
    for (const [key, field] of Object.entries(properties!))
      if (JSON.stringify(field).includes("x-quantity"))
        expect([key, field.title]).not.toContain(undefined);
});

test("a place is said in the words of the forms, counted from one", () => {
  const nest = { ...coil, wires: [{ path: { kind: "straight", length: "" } }] };
  expect(placeWords(nest, "/wires/0/path/length")).toBe("Wires › 1 › Path › Length of the bar");
  expect(placeWords(coil, "/section/outer_diameter")).toContain("›");
});

test("what changes along the wire starts as the core says", () => {
  const start = (name: string) => fieldOf("Along", name)["x-start"];
  expect(start("twist")).toEqual({ total: 360 });
  expect(start("width")).toEqual({ from: 1, to: 0.6 });
  expect(fieldOf("Along", "width")["x-still"]).toBe(1);
  expect(fieldOf("Finish", "kind")["x-coats"]?.powder?.colour).toMatch(/^#/);
  expect(fieldOf("Finish", "kind")["x-coats"]?.polished).toBeUndefined();
});

/** What each kind of path and section asks for, and what a new one starts from. */

import type { Recipe } from "../../api/client";

export type Path = Recipe["path"];
export type PathKind = Path["kind"];
export type Section = Recipe["section"];
export type SectionKind = Section["kind"];

export type Measure = "length" | "angle" | "count" | "factor" | "turns";

/** A field: its label, its key in the recipe, what it measures, and whether it may be left empty. */
export type Field = readonly [label: string, key: string, measure: Measure, optional?: "optional"];

export const PATH_KINDS = [
  ["coil", "coil"],
  ["straight", "straight"],
  ["points", "through points"],
  ["formula", "by formula"],
  ["winding", "winding around a path"],
  ["wrap", "wrap on a turned body"],
] as const satisfies readonly (readonly [PathKind, string])[];

export const SECTION_KINDS = [
  ["round", "round"],
  ["tube", "tube"],
  ["rectangle", "rectangle"],
  ["polygon", "polygon"],
  ["ellipse", "ellipse"],
  ["flatted", "flatted round"],
  ["star", "star"],
  ["lobed", "lobed"],
  ["trough", "half-round trough"],
  ["channel", "channel"],
  ["trapezoid", "trapezoid"],
  ["free", "free, by points or drawing"],
  ["blend", "several that blend"],
] as const satisfies readonly (readonly [SectionKind, string])[];

export const SECTION_FIELDS: Record<SectionKind, readonly Field[]> = {
  round: [["Diameter", "diameter", "length"]],
  tube: [
    ["Diameter", "diameter", "length"],
    ["Wall", "wall", "length"],
  ],
  rectangle: [
    ["Width, from the axis", "width", "length"],
    ["Height, along it", "height", "length"],
    ["Corner radius", "corner_radius", "length", "optional"],
  ],
  polygon: [
    ["Sides", "sides", "count"],
    ["Across flats", "across_flats", "length"],
  ],
  ellipse: [
    ["Width, from the axis", "width", "length"],
    ["Height, along it", "height", "length"],
  ],
  flatted: [
    ["Diameter", "diameter", "length"],
    ["Across the flat", "flat", "length"],
  ],
  star: [
    ["Points", "points", "count"],
    ["Outer diameter", "outer_diameter", "length"],
    ["Inner diameter", "inner_diameter", "length"],
    ["Fillet", "fillet", "length", "optional"],
  ],
  lobed: [
    ["Lobes", "lobes", "count"],
    ["Core diameter", "core_diameter", "length"],
    ["Lobe diameter", "lobe_diameter", "length"],
  ],
  trough: [
    ["Width", "width", "length"],
    ["Depth", "depth", "length"],
    ["Wall", "wall", "length"],
  ],
  channel: [
    ["Width", "width", "length"],
    ["Depth", "depth", "length"],
    ["Wall", "wall", "length"],
  ],
  trapezoid: [
    ["Base", "base", "length"],
    ["Top", "top", "length"],
    ["Height", "height", "length"],
  ],
  free: [],
  blend: [],
};

const round = (value: number) => Number(value.toPrecision(3));

/** A section of another kind, about `size` wide. */
export function newSection(kind: SectionKind, size: number): Section {
  const s = round(size);
  const part = (share: number) => round(size * share);
  switch (kind) {
    case "round":
      return { kind, diameter: s };
    case "tube":
      return { kind, diameter: s, wall: part(0.15) };
    case "rectangle":
    case "ellipse":
      return { kind, width: s, height: s };
    case "polygon":
      return { kind, sides: 6, across_flats: s };
    case "flatted":
      return { kind, diameter: s, flat: part(0.8) };
    case "star":
      return { kind, points: 5, outer_diameter: s, inner_diameter: part(0.6), fillet: part(0.04) };
    case "lobed":
      return { kind, lobes: 3, core_diameter: part(0.55), lobe_diameter: part(0.45) };
    case "trough":
      return { kind, width: s, depth: part(0.6), wall: part(0.1) };
    case "channel":
      return { kind, width: s, depth: part(0.6), wall: part(0.12) };
    case "trapezoid":
      return { kind, base: s, top: part(0.6), height: part(0.8) };
    case "free":
      return {
        kind,
        loops: [
          {
            points: [
              [-s / 2, -s / 2],
              [s / 2, -s / 2],
              [s / 2, s / 2],
              [-s / 2, s / 2],
            ],
          },
        ],
      };
    case "blend":
      return {
        kind,
        sections: [
          { at: 0, section: { kind: "round", diameter: s } },
          { at: 1, section: { kind: "polygon", sides: 6, across_flats: s } },
        ],
      };
  }
}

/** A path of another kind, about `size` wide, in the recipe's unit. */
export function newPath(kind: PathKind, size: number): Path {
  const s = round(size);
  const part = (share: number) => round(size * share);
  switch (kind) {
    case "coil":
      return { kind, diameter: s, turns: 6, pitch: part(0.4) };
    case "straight":
      return { kind, length: part(4) };
    case "points":
      return {
        kind,
        points: [
          [0, 0, 0],
          [part(1), 0, part(0.3)],
          [part(1.4), part(1), part(0.6)],
          [part(0.4), part(1.4), part(0.9)],
        ],
      };
    case "formula":
      return {
        kind,
        radius: `${s / 2} + ${part(0.1)} * sin(t / 2)`,
        angle: "t",
        height: `${part(0.06)} * t`,
        from: 0,
        to: "12 * pi",
      };
    case "winding":
      return {
        kind,
        around: { kind: "coil", diameter: part(2), turns: 2, pitch: part(1.5) },
        radius: part(0.25),
        turns: 40,
      };
    case "wrap":
      return {
        kind,
        profile: [
          [part(0.3), 0],
          [part(0.5), part(0.6)],
          [part(0.5), part(1.2)],
          [part(0.35), part(1.6)],
        ],
        corner_radius: part(0.2),
        pitch: part(0.3),
      };
  }
}

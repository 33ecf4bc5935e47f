/** What a thread's host, form and ends ask for, and what new ones start from. */

import type { ThreadRecipe } from "../../api/client";
import type { Field } from "../forms/kinds";

export type Host = ThreadRecipe["host"];
export type Form = NonNullable<ThreadRecipe["thread"]["form"]>;
export type End = NonNullable<ThreadRecipe["thread"]["start"]>;

export const HOSTS = [
  ["rod", "a rod"],
  ["bore", "a bore, with the body around it"],
  ["cone", "a cone"],
  ["turned", "a turned body"],
] as const satisfies readonly (readonly [Host["kind"], string])[];

export const HOST_FIELDS: Record<Host["kind"], readonly Field[]> = {
  rod: [
    ["Length", "length", "length"],
    ["Diameter beyond the thread", "diameter", "length", "optional"],
    ["Hole through it", "hole", "length", "optional"],
  ],
  bore: [
    ["Length", "length", "length"],
    ["Bore beyond the thread", "diameter", "length", "optional"],
    ["Outside, round", "outside", "length", "optional"],
    ["Outside, across flats", "across_flats", "length", "optional"],
  ],
  cone: [
    ["Length", "length", "length"],
    ["Diameter at the start", "diameter", "length"],
    ["Diameter at the end", "end_diameter", "length"],
  ],
  turned: [["Corner radius", "corner_radius", "length", "optional"]],
};

export function newHost(kind: Host["kind"], size: number): Host {
  const s = Number(size.toPrecision(3));
  switch (kind) {
    case "rod":
      return { kind, length: 2 * s };
    case "bore":
      return { kind, length: s };
    case "cone":
      return { kind, length: 2 * s, diameter: s, end_diameter: Number((0.8 * s).toPrecision(3)) };
    case "turned":
      return {
        kind,
        profile: [
          [0.35 * s, 0],
          [0.55 * s, 0.4 * s],
          [0.5 * s, 0.9 * s],
          [0.3 * s, 1.3 * s],
        ].map(([r, z]) => [Number(r!.toPrecision(3)), Number(z!.toPrecision(3))] as const) as never,
        ease: "smooth",
      };
  }
}

export const USES = [
  ["body", "the whole body"],
  ["ridge", "a ridge on it"],
  ["groove", "a groove in it"],
] as const;

export const STATES = [
  ["basic", "basic size"],
  ["middle", "middle of its limits"],
  ["max", "largest diameters"],
  ["min", "smallest diameters"],
] as const;

export const ENDS = [
  ["usual", "as usual"],
  ["chamfer", "a chamfer"],
  ["fade", "a run-out"],
  ["undercut", "an undercut"],
  ["blunt", "blunt, a full form at once"],
  ["plain", "cut square"],
] as const;

export const END_FIELDS: Record<End["kind"], readonly Field[]> = {
  plain: [],
  chamfer: [
    ["Angle from the axis", "angle", "angle", "optional"],
    ["Diameter at the face", "diameter", "length", "optional"],
  ],
  fade: [
    ["Over a length", "length", "length", "optional"],
    ["or over an angle", "angle", "angle", "optional"],
  ],
  undercut: [
    ["Width", "width", "length"],
    ["Diameter", "diameter", "length", "optional"],
  ],
  blunt: [["Pilot before it", "pilot", "length", "optional"]],
};

export const FORM_FIELDS: readonly Field[] = [
  ["Leading flank", "leading", "angle"],
  ["Trailing flank", "trailing", "angle"],
  ["Height", "height", "length"],
  ["Flat of the crest", "crest", "length", "optional"],
  ["Crest radius", "crest_radius", "length", "optional"],
  ["Root radius", "root_radius", "length", "optional"],
];

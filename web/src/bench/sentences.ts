/** One sentence for each step of the work: what it holds now. */

import type { Recipe, Report, Said } from "../api/client";
import { digits, lengthText, type LengthUnit } from "../look/numbers";

type Typed = number | string | null | undefined;

function said(value: Typed, unit: string): string {
  if (value === null || value === undefined) return "–";
  return typeof value === "number" ? `${digits(value, 7)} ${unit}`.trim() : value;
}

export function fitSentence(recipe: Recipe): string {
  const { bore, rod, length, gap, bodies = [] } = recipe.fit ?? {};
  const unit = recipe.unit ?? "mm";
  const parts = [
    bore != null && `in a ${said(bore, unit)} bore`,
    rod != null && `over a ${said(rod, unit)} rod`,
    bodies.length > 0 && `beside ${bodies.map((body) => body.name).join(" and ")}`,
    length != null && `in ${said(length, unit)} of length`,
    gap != null && `keeping ${said(gap, unit)} of air`,
  ].filter(Boolean);
  return parts.length ? parts.join(", ") : `no space given; in ${unit}`;
}

export function pathSentence(recipe: Recipe): string {
  return pathWords(recipe.path, recipe.unit ?? "mm");
}

function pathWords(path: Recipe["path"], unit: string): string {
  const legs = (path.legs?.start?.length ?? 0) + (path.legs?.end?.length ?? 0);
  const more = legs ? `, ${legs} ${legs === 1 ? "leg" : "legs"}` : "";
  const spacing = (of: { turns?: Typed; pitch?: Typed }) =>
    of.turns != null ? `${said(of.turns, "")} turns` : `pitch ${said(of.pitch, unit)}`;
  switch (path.kind) {
    case "straight":
      return `straight, ${said(path.length, unit)}${more}`;
    case "points":
      return `${path.closed ? "closed, " : ""}through ${path.points.length} points${more}`;
    case "formula":
      return `by formula, t from ${said(path.from ?? 0, "")} to ${said(path.to ?? 1, "")}${more}`;
    case "winding":
      return `winding, ${spacing(path)}, around: ${pathWords(path.around, unit)}`;
    case "wrap":
      return `wrap on a turned body, ${spacing(path)}${more}`;
    case "coil":
      return coilWords(path, unit) + more;
  }
}

function coilWords(path: Extract<Recipe["path"], { kind: "coil" }>, unit: string): string {
  const varied = typeof path.diameter === "object" ? path.diameter : null;
  const diameter =
    path.diameter !== null && typeof path.diameter === "object"
      ? (varied?.shape ?? "varying ⌀")
      : `⌀ ${said(path.diameter, unit)}`;
  const taper =
    path.end_diameter != null
      ? ` to ${said(path.end_diameter, unit)}`
      : path.cone_angle != null
        ? `, cone ${said(path.cone_angle, "°")}`
        : "";
  const pitch = typeof path.pitch === "object" ? path.pitch && "varying pitch" : null;
  const rise = [
    path.turns != null && `${said(path.turns, "")} turns`,
    pitch ?? (path.pitch != null && `pitch ${said(path.pitch as Typed, unit)}`),
    path.height != null && `height ${said(path.height, unit)}`,
    path.closed && "closed ends",
  ].filter(Boolean);
  return `${path.hand ?? "right"}-hand coil, ${diameter}${taper}, ${rise.join(", ")}`;
}

export function sectionSentence(recipe: Recipe): string {
  const unit = recipe.unit ?? "mm";
  const section = recipe.section;
  const plane = section.plane === "axial" ? "through the axis" : "across the wire";
  const holes = section.holes?.length
    ? `, ${section.holes.length} ${section.holes.length === 1 ? "hole" : "holes"}`
    : "";
  return `${sectionWords(section, unit)}${holes}, ${plane}`;
}

function sectionWords(section: Recipe["section"], unit: string): string {
  switch (section.kind) {
    case "round":
      return `round ⌀ ${said(section.diameter, unit)}`;
    case "tube":
      return `tube ⌀ ${said(section.diameter, unit)}, wall ${said(section.wall, unit)}`;
    case "polygon":
      return `${section.sides} sides, ${said(section.across_flats, unit)} across flats`;
    case "rectangle":
    case "ellipse":
      return `${section.kind} ${said(section.width, unit)} × ${said(section.height, unit)}`;
    case "flatted":
      return `flatted round ⌀ ${said(section.diameter, unit)}`;
    case "star":
      return `star of ${section.points}, ⌀ ${said(section.outer_diameter, unit)}`;
    case "lobed":
      return `${section.lobes} lobes on ⌀ ${said(section.core_diameter, unit)}`;
    case "trough":
    case "channel":
      return `${section.kind} ${said(section.width, unit)} × ${said(section.depth, unit)}`;
    case "trapezoid":
      return `trapezoid ${said(section.base, unit)} to ${said(section.top, unit)}`;
    case "free":
      return freeWords(section.loops);
    case "blend":
      return `${section.sections.length} sections that blend`;
  }
}

function freeWords(loops: Extract<Recipe["section"], { kind: "free" }>["loops"]): string {
  if (loops[0]?.closed === false) return "an open line";
  return loops.length === 1 ? "one drawn loop" : `${loops.length} drawn loops`;
}

export type StanceKind = NonNullable<Recipe["stance"]>["kind"];

export const STANCES: Record<StanceKind, string> = {
  outward: "faces away from the axis",
  steady: "as little roll as possible",
  upright: "its up leans as little as it can",
  plumb: "its plane always holds the axis direction",
  fixed: "never turns",
  aimed: "points at a second curve",
  seated: "square to a turned body",
};

/** The stance of a recipe, also where it names none. */
export function stanceOf(recipe: Recipe): StanceKind {
  const around = ["coil", "winding", "wrap"].includes(recipe.path.kind);
  return recipe.stance?.kind ?? (around ? "outward" : "steady");
}

export function stanceSentence(recipe: Recipe): string {
  const kind = stanceOf(recipe);
  return `${kind}: ${STANCES[kind]}`;
}

const ALONG: [keyof NonNullable<Recipe["along"]>, string][] = [
  ["twist", "°"],
  ["size", ""],
  ["diameter", ""],
  ["perimeter", ""],
  ["area", ""],
  ["width", ""],
  ["depth", ""],
  ["tilt", "°"],
  ["shape", ""],
];

export function alongSentence(recipe: Recipe): string {
  const parts = ALONG.flatMap(([name, unit]) => {
    const schedule = recipe.along?.[name];
    if (!schedule || schedule.on === false) return [];
    if (schedule.total != null)
      return schedule.total === 0 ? [] : [`${name} ${said(schedule.total, unit)}`];
    if (schedule.points) return [`${name} by ${schedule.points.length} points`];
    if (schedule.formula != null) return [`${name} by formula`];
    return [`${name} ${said(schedule.from, "")} to ${said(schedule.to, unit)}`];
  });
  return parts.length ? parts.join(", ") : "no twist, one size";
}

export function wiresSentence(recipe: Recipe): string {
  const { strands, wires = [] } = recipe;
  const own = !strands
    ? "one wire"
    : strands.lay == null
      ? `${strands.count} starts`
      : `${strands.count} strands${strands.core ? " and one in the middle" : ""}`;
  return wires.length ? `${own}, and ${wires.length} more` : own;
}

export function endsSentence(recipe: Recipe, report: Report | null, unit: LengthUnit): string {
  const length = report?.figures.path_length;
  const bare = recipe.use?.as === "skin" ? "open" : "flat";
  const [start, end] = (["start", "end"] as const).map((name) => recipe.ends?.[name]?.kind ?? bare);
  const ends = start === end ? `${start} ends` : `${start} start, ${end} end`;
  const span = recipe.path.span ? "a span" : "the whole path";
  return `${span}${length ? `, ${lengthText(length, unit)}` : ""}, ${ends}`;
}

export function checksSentence(report: Said | null): string {
  if (!report) return "not checked yet";
  const stops = report.checks.filter((check) => check.verdict === "stop").length;
  const watches = report.checks.filter((check) => check.verdict === "watch").length;
  if (!stops && !watches) return `all ${report.checks.length} clear`;
  return [stops && `${stops} stop`, watches && `${watches} watch`].filter(Boolean).join(", ");
}

export function loadSentence({ spring }: Recipe): string {
  if (!spring) return "not a spring";
  const wire = typeof spring.wire === "object" ? (spring.wire.name ?? "own wire") : spring.wire;
  const points = spring.points?.length ?? 0;
  const does = { compression: "pushes", extension: "pulls", torsion: "turns", spiral: "winds up" }[
    spring.kind
  ];
  return `${does}; ${wire ?? "EN 10270-1 SH"}, ${points} working ${points === 1 ? "point" : "points"}`;
}

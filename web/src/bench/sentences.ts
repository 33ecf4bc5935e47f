/** One sentence for each step of the work: what it holds now. */

import type { Recipe, Report } from "../api/client";
import { digits, lengthText, type LengthUnit } from "../look/numbers";

type Typed = number | string | null | undefined;

function said(value: Typed, unit: string): string {
  if (value === null || value === undefined) return "–";
  return typeof value === "number" ? `${digits(value, 7)} ${unit}`.trim() : value;
}

export function fitSentence(recipe: Recipe): string {
  const { bore, rod, length, gap } = recipe.fit ?? {};
  const unit = recipe.unit ?? "mm";
  const parts = [
    bore != null && `in a ${said(bore, unit)} bore`,
    rod != null && `over a ${said(rod, unit)} rod`,
    length != null && `in ${said(length, unit)} of length`,
    gap != null && `keeping ${said(gap, unit)} of air`,
  ].filter(Boolean);
  return parts.length ? parts.join(", ") : `no space given; in ${unit}`;
}

export function pathSentence(recipe: Recipe): string {
  const unit = recipe.unit ?? "mm";
  const path = recipe.path;
  if (path.kind === "straight") return `straight, ${said(path.length, unit)}`;
  const taper =
    path.end_diameter != null
      ? ` to ${said(path.end_diameter, unit)}`
      : path.cone_angle != null
        ? `, cone ${said(path.cone_angle, "°")}`
        : "";
  const rise = [
    path.turns != null && `${said(path.turns, "")} turns`,
    path.pitch != null && `pitch ${said(path.pitch, unit)}`,
    path.height != null && `height ${said(path.height, unit)}`,
  ].filter(Boolean);
  return `${path.hand ?? "right"}-hand coil, ⌀ ${said(path.diameter, unit)}${taper}, ${rise.join(", ")}`;
}

export function sectionSentence(recipe: Recipe): string {
  const unit = recipe.unit ?? "mm";
  const section = recipe.section;
  const plane = section.plane === "axial" ? "through the axis" : "across the wire";
  switch (section.kind) {
    case "round":
      return `round ⌀ ${said(section.diameter, unit)}, ${plane}`;
    case "polygon":
      return `${section.sides} sides, ${said(section.across_flats, unit)} across flats, ${plane}`;
    default:
      return `${section.kind} ${said(section.width, unit)} × ${said(section.height, unit)}, ${plane}`;
  }
}

export const STANCES = {
  outward: "faces away from the axis",
  steady: "as little roll as possible",
  fixed: "never turns",
} as const;

export function stanceSentence(recipe: Recipe): string {
  const kind = recipe.stance.kind;
  return `${kind}: ${STANCES[kind]}`;
}

export function alongSentence(recipe: Recipe): string {
  const twist = recipe.along?.twist;
  const size = recipe.along?.size;
  const parts = [
    twist && twist.on !== false && twist.total !== 0
      ? `twist ${said(twist.total, "°")}`
      : "no twist",
    size && size.on !== false ? `size ${said(size.from, "")} to ${said(size.to, "")}` : "one size",
  ];
  return parts.join(", ");
}

export function endsSentence(report: Report | null, unit: LengthUnit): string {
  const length = report?.figures.path_length;
  return `the whole path${length ? `, ${lengthText(length, unit)}` : ""}, flat ends`;
}

export function checksSentence(report: Report | null): string {
  if (!report) return "not checked yet";
  const stops = report.checks.filter((check) => check.verdict === "stop").length;
  const watches = report.checks.filter((check) => check.verdict === "watch").length;
  if (!stops && !watches) return `all ${report.checks.length} clear`;
  return [stops && `${stops} stop`, watches && `${watches} watch`].filter(Boolean).join(", ");
}

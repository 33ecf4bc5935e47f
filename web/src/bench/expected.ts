/** What a part is expected to weigh and measure, beside what it does. */

import type { AnyRecipe, Check, Said } from "../api/client";
import { shown, told, type LengthUnit } from "../look/numbers";

/** The check that holds a figure against what is expected of it. */
export function expectation(report: Said | null, figure: string): Check | undefined {
  return report?.checks.find((check) => check.id === `expected-${figure}`);
}

/** How far a figure is from what is expected of it, in words. */
export function apart(check: Check, unit: LengthUnit): string {
  if (check.value === null || check.limit === null) return "not there";
  const off = shown(Math.abs(check.value - check.limit), check.unit, unit);
  const way = check.value > check.limit ? "more" : "less";
  return check.value === check.limit ? "as expected" : `${off.number} ${off.unit} ${way}`;
}

/** What the part weighs, and how much of what is expected it meets; `report` speaks of this recipe, or is null. */
export function weighSentence(recipe: AnyRecipe, report: Said | null): string {
  const mass = report?.figures.mass;
  const weighs = mass == null ? "" : told(mass, "g", recipe.unit ?? "mm");
  const asked = Object.keys(recipe.expected ?? {});
  if (asked.length === 0) return weighs;
  if (!report) return `${asked.length} expected, not compared yet`;
  const met = asked.filter((name) => expectation(report, name)?.verdict === "clear").length;
  return `${weighs}; ${met} of ${asked.length} as expected`;
}

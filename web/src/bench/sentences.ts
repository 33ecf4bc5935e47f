/** What the checks come to, in a sentence. */

import type { Said } from "../api/client";

export function checksSentence(report: Said | null): string {
  if (!report) return "not checked yet";
  const stops = report.checks.filter((check) => check.verdict === "stop").length;
  const watches = report.checks.filter((check) => check.verdict === "watch").length;
  if (!stops && !watches) return `all ${report.checks.length} clear`;
  return [stops && `${stops} stop`, watches && `${watches} watch`].filter(Boolean).join(", ");
}

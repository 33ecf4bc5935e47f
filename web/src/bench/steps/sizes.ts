import type { Report } from "../../api/client";
import { MM, threeDigits, type LengthUnit } from "../../look/numbers";

export const SIZES = ["size", "diameter", "perimeter", "area"] as const;
export type Size = (typeof SIZES)[number];

type Drawn = { section: Pick<Report["section"], "across" | "axial">; figures: Report["figures"] };

const ringOf = (report: Pick<Drawn, "section"> | null) =>
  (report?.section.across ?? report?.section.axial)?.[0] ?? [];

/** How wide the section is, mm; nothing where that is not known yet. */
export function widthOf(report: Pick<Drawn, "section"> | null): number | null {
  const across = ringOf(report).map(([u]) => u ?? 0);
  return across.length ? Math.max(...across) - Math.min(...across) : null;
}

/** What the section as it is comes to, as a recipe in a unit would type it. */
export function sizesNow(report: Drawn | null, unit: LengthUnit): Record<Size, number> {
  const ring = ringOf(report);
  const mm = MM[unit];
  const around = ring.reduce((sum, [u, v], k) => {
    const [nextU, nextV] = ring[(k + 1) % ring.length]!;
    return sum + Math.hypot((nextU ?? 0) - (u ?? 0), (nextV ?? 0) - (v ?? 0));
  }, 0);
  return {
    size: 1,
    diameter: threeDigits((widthOf(report) ?? 10) / mm),
    perimeter: threeDigits((around || 30) / mm),
    area: threeDigits((report?.figures.section_area ?? 80) / mm ** 2),
  };
}

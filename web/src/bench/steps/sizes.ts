import type { Report } from "../../api/client";
import { MM, type LengthUnit } from "../../look/numbers";

export const SIZES = ["size", "diameter", "perimeter", "area"] as const;
export type Size = (typeof SIZES)[number];

type Drawn = { section: Pick<Report["section"], "across" | "axial">; figures: Report["figures"] };

/** What the section as it is comes to, as a recipe in a unit would type it. */
export function sizesNow(report: Drawn | null, unit: LengthUnit): Record<Size, number> {
  const ring = (report?.section.across ?? report?.section.axial)?.[0] ?? [];
  const mm = MM[unit];
  const across = ring.map(([u]) => u ?? 0);
  const around = ring.reduce((sum, [u, v], k) => {
    const [nextU, nextV] = ring[(k + 1) % ring.length]!;
    return sum + Math.hypot((nextU ?? 0) - (u ?? 0), (nextV ?? 0) - (v ?? 0));
  }, 0);
  return {
    size: 1,
    diameter: typed(across.length ? (Math.max(...across) - Math.min(...across)) / mm : 10 / mm),
    perimeter: typed((around || 30) / mm),
    area: typed((report?.figures.section_area ?? 80) / mm ** 2),
  };
}

/** As somebody would type it. */
export const typed = (value: number) => Number(value.toPrecision(3));

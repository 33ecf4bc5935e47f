import { keep, kept } from "../../state/kept";

const KEY = "metaspira-lane-height";

/** The least height of a lane, as it is at first, and the most. */
export const LANE = 32;
export const MOST = 4 * LANE;

/** A height that a lane may have. */
export function bounded(height: number): number {
  return Number.isFinite(height) ? Math.min(MOST, Math.max(LANE, Math.round(height))) : LANE;
}

/** The height of a lane that this browser keeps, or the usual one. */
export function keptLaneHeight(): number {
  return bounded(Number(kept(KEY) ?? LANE));
}

export function keepLaneHeight(height: number) {
  keep(KEY, String(height));
}

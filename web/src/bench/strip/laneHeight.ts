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
  try {
    return bounded(Number(localStorage.getItem(KEY) ?? LANE));
  } catch {
    return LANE;
  }
}

export function keepLaneHeight(height: number) {
  try {
    localStorage.setItem(KEY, String(height));
  } catch {
    // A browser that keeps nothing shows the usual next time.
  }
}

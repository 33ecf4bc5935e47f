/** The scan that a design was traced from, as it lies over the part. */

import { useMemo } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../api/client";
import { useFollowed } from "../api/jobs";

type Ghost = NonNullable<Schemas["Traced"]["ghost"]>;

export interface Scan {
  /** x, y and z of each place, mm. */
  places: Float32Array;
  /** Red, green and blue of each. */
  colours: Float32Array;
  deviation: Schemas["Deviation"];
  /** What the strongest colours stand for, mm. */
  most: number;
}

/** Where a design opens with the scan that it was traced from. */
export function withScan(design: string, trace: string, rounded: boolean): string {
  return `/designs/${design}?scan=${trace}${rounded ? "&rounded=1" : ""}`;
}

/** The scan that the address names; null where it names none, or where it is kept no more. */
export function useScan(): { scan: Scan | null; leave: () => void } {
  const [search, setSearch] = useSearchParams();
  const rounded = search.has("rounded");
  const { job } = useFollowed("trace", search.get("scan"));
  const found = job?.found;
  const scan = useMemo(() => {
    const deviation = rounded ? found?.rounded_deviation : found?.deviation;
    if (!found?.ghost || !deviation) return null;
    return scanOf(found.ghost, rounded, deviation);
  }, [found, rounded]);
  return { scan, leave: () => setSearch({}) };
}

/** A ghost as it is painted: blue inside the part, grey on its surface, orange outside (told apart with most kinds of
 * colour blindness). */
export function scanOf(ghost: Ghost, rounded: boolean, deviation: Schemas["Deviation"]): Scan {
  const most = deviation.p95 || 1e-6;
  const off = rounded ? ghost.rounded : ghost.off;
  const share = off.map((value) => Math.max(-1, Math.min(1, value / most)));
  return {
    places: new Float32Array(ghost.places.flat()),
    colours: new Float32Array(share.flatMap(colourAt)),
    deviation,
    most,
  };
}

const INSIDE = [0, 114, 178];
const ON = [158, 153, 143];
const OUTSIDE = [213, 94, 0];

/** Red, green and blue, 0 to 255, at a share, −1 to 1, of the strongest. */
export function shownAt(share: number): number[] {
  const to = share < 0 ? INSIDE : OUTSIDE;
  return ON.map((from, k) => Math.round(from + (to[k]! - from) * Math.abs(share)));
}

/** The same as a shader takes it: linear, 0 to 1 (IEC 61966-2-1). */
export function colourAt(share: number): number[] {
  return shownAt(share).map((part) => {
    const value = part / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });
}

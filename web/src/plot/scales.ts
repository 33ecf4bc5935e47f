import { useXScale, useYScale } from "@mui/x-charts/hooks";

/** From a value to its place in the chart, in pixels, and back. */
export interface Scale {
  (value: number): number;
  invert: (place: number) => number;
  range: () => number[];
}

/** From a step to where its band begins, and how wide all bands are. */
export interface Bands {
  (value: number): number;
  bandwidth: () => number;
}

/** The scales of a chart's base and of its left side. */
export function useScales<S extends Scale | Bands = Scale>(): { x: S; y: S } {
  return { x: useXScale("along") as unknown as S, y: useYScale("left") as unknown as S };
}

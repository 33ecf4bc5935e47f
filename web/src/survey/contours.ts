import { contours } from "d3-contour";

/** A line along which a figure has one value: runs of places in the grid, whole numbers at its points. */
export interface Level {
  value: number;
  runs: [number, number][][];
}

const LEVELS = 6;

/** Lines of some even values of a figure over a grid, `values` a row after the other; none where a value is not known,
 * since a line through such a place would be made up. */
export function levelsOf(values: (number | null)[], across: number, up: number): Level[] {
  if (across < 2 || up < 2 || values.length < across * up) return [];
  const known = values.map((value) => value ?? NaN);
  return contours()
    .size([across, up])
    .thresholds(LEVELS)(known)
    .map(({ value, coordinates }) => ({
      value,
      runs: coordinates.flat().flatMap((ring) => inside(ring, known, across, up)),
    }))
    .filter(({ runs }) => runs.length > 0);
}

/** The runs of a ring that are a line between points of the grid, not the edge of it or of what is known. */
function inside(ring: number[][], values: number[], across: number, up: number) {
  const places = ring.map(([x, y]): [number, number] => [x! - 0.5, y! - 0.5]);
  const runs: [number, number][][] = [];
  let run: [number, number][] = [];
  for (const place of places) {
    if (isKnown(place, values, across, up)) run.push(place);
    else {
      if (run.length > 1) runs.push(run);
      run = [];
    }
  }
  if (run.length > 1) runs.push(run);
  return runs;
}

function isKnown([x, y]: [number, number], values: number[], across: number, up: number) {
  const corners = [Math.floor(x), Math.ceil(x)].flatMap((i) =>
    [Math.floor(y), Math.ceil(y)].map((j) => [i, j] as const),
  );
  return corners.every(
    ([i, j]) => i >= 0 && j >= 0 && i < across && j < up && Number.isFinite(values[j * across + i]),
  );
}

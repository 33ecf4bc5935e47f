/** The axes of a chart: round marks, and places along a line. */

/** Even, round marks that hold low and high. */
export function marks(low: number, high: number, about = 5): number[] {
  if (!(high > low)) return [low];
  const rough = (high - low) / about;
  const ten = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((factor) => factor * ten).find((size) => size >= rough)!;
  const first = Math.floor(low / step + 1e-9);
  const last = Math.ceil(high / step - 1e-9);
  return Array.from({ length: last - first + 1 }, (_, k) =>
    Number(((first + k) * step).toPrecision(12)),
  );
}

/** From a value to its place, the first mark at `start` and the last at `end`. */
export function scale(marked: number[], start: number, end: number): (value: number) => number {
  const [low, high] = [marked[0]!, marked.at(-1)!];
  return (value) => start + ((value - low) / (high - low || 1)) * (end - start);
}

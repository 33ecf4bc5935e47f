/** Reading a spring's diagram: points of length, which falls or grows, and force, straight between them. */

export type Curve = readonly (readonly number[])[];

/** The force at a length, mm to N, held to the curve's ends. */
export function forceAt(curve: Curve, length: number): number {
  const sign = curve[curve.length - 1]![0]! < curve[0]![0]! ? -1 : 1;
  return between(
    curve.map(([l, f]) => [sign * l!, f!]),
    sign * length,
  );
}

function between(points: number[][], x: number): number {
  const next = points.findIndex(([at]) => at! >= x);
  if (next < 0) return points[points.length - 1]![1]!;
  if (next === 0) return points[0]![1]!;
  const [x0, y0] = points[next - 1]!;
  const [x1, y1] = points[next]!;
  return x1 === x0 ? y1! : y0! + ((x - x0!) / (x1! - x0!)) * (y1! - y0!);
}

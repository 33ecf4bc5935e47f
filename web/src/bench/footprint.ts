/** The soft shadow that a part throws on the ground under it. */

import type { BufferGeometry } from "three";

export const GRID = 128;

/** How far over the ground, in radii of the part, a point still darkens it by 1/e of what it does there. */
const REACH = 0.3;
const SOFT = 3;
const MOST_POINTS = 60_000;

export interface Ground {
  /** The middle of the square, mm, and half of its width. */
  x: number;
  y: number;
  half: number;
  /** The lowest place of the part, mm. */
  z: number;
}

/** How dark the ground of a part of this radius, mm, is, 0 to 1, in GRID rows from the lowest y of GRID from the lowest x. */
export function footprint(
  geometries: readonly BufferGeometry[],
  ground: Ground,
  radius: number,
): Float32Array {
  let dark: Float32Array = new Float32Array(GRID * GRID);
  const scale = GRID / (2 * ground.half);
  for (const geometry of geometries) {
    const places = geometry.getAttribute("position");
    const step = Math.ceil(places.count / MOST_POINTS);
    for (let i = 0; i < places.count; i += step) {
      const column = Math.floor((places.getX(i) - ground.x + ground.half) * scale);
      const row = Math.floor((places.getY(i) - ground.y + ground.half) * scale);
      if (column < 0 || row < 0 || column >= GRID || row >= GRID) continue;
      const over = (places.getZ(i) - ground.z) / (REACH * radius);
      dark[row * GRID + column]! += step * Math.exp(-over);
    }
  }
  for (let pass = 0; pass < 2; pass++) dark = blurred(blurred(dark, 1, GRID), GRID, 1);
  let most = 0;
  for (const value of dark) most = Math.max(most, value);
  return most > 0 ? dark.map((value) => Math.sqrt(value / most)) : dark;
}

/** The mean over SOFT cells to either side along one of the axes. */
function blurred(field: Float32Array, along: number, across: number): Float32Array {
  const out = new Float32Array(field.length);
  for (let line = 0; line < GRID; line++) {
    const first = line * across;
    let sum = 0;
    for (let k = -SOFT; k < GRID; k++) {
      if (k + SOFT < GRID) sum += field[first + (k + SOFT) * along]!;
      if (k - SOFT - 1 >= 0) sum -= field[first + (k - SOFT - 1) * along]!;
      if (k >= 0) out[first + k * along] = sum / (2 * SOFT + 1);
    }
  }
  return out;
}

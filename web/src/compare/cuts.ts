/** Where a plane cuts the triangles of pieces. */

import { Vector3 } from "three";
import type { Piece } from "../bench/geometry";

export interface Plane {
  origin: Vector3;
  /** Its axes, unit vectors square to each other. */
  first: Vector3;
  second: Vector3;
}

/** Two ends, each by the plane's axes. */
export type Segment = readonly [number, number, number, number];

/** The plane through the z axis, turned by an angle, degrees, from the x axis. */
export function throughAxis(angle: number): Plane {
  const turn = (angle * Math.PI) / 180;
  return {
    origin: new Vector3(),
    first: new Vector3(Math.cos(turn), Math.sin(turn), 0),
    second: new Vector3(0, 0, 1),
  };
}

/** The plane across the z axis at a height, mm. */
export function acrossAxis(height: number): Plane {
  return {
    origin: new Vector3(0, 0, height),
    first: new Vector3(1, 0, 0),
    second: new Vector3(0, 1, 0),
  };
}

/** The segments of all triangles that the plane cuts. */
export function cut(pieces: Piece[], plane: Plane): Segment[] {
  const normal = plane.first.clone().cross(plane.second);
  const found: Segment[] = [];
  for (const { geometry } of pieces) {
    const position = geometry.getAttribute("position");
    const index = geometry.getIndex();
    const count = index ? index.count : position.count;
    const flat = new Float64Array(3 * position.count);
    const corner = new Vector3();
    for (let i = 0; i < position.count; i++) {
      corner.fromBufferAttribute(position, i).sub(plane.origin);
      flat.set([corner.dot(plane.first), corner.dot(plane.second), corner.dot(normal)], 3 * i);
    }
    for (let t = 0; t < count; t += 3) {
      const corners = [t, t + 1, t + 2].map((k) => 3 * (index ? index.getX(k) : k));
      const ends: number[] = [];
      for (let side = 0; side < 3; side++) {
        const a = corners[side]!;
        const b = corners[(side + 1) % 3]!;
        const over = flat[a + 2]!;
        const under = flat[b + 2]!;
        if (over >= 0 === under >= 0) continue;
        const share = over / (over - under);
        for (const k of [0, 1]) ends.push(flat[a + k]! + share * (flat[b + k]! - flat[a + k]!));
      }
      if (ends.length === 4) found.push(ends as unknown as Segment);
    }
  }
  return found;
}

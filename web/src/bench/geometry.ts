/** From the bytes of the preview to geometries in mm, z up, painted by what the checks say. */

import {
  BufferAttribute,
  Color,
  SRGBColorSpace,
  type BufferGeometry,
  type Mesh,
  type MeshStandardMaterial,
} from "three";
import { GLTFLoader } from "three/addons/loaders/GLTFLoader.js";
import type { Said } from "../api/client";

const loader = new GLTFLoader();
const WIRE = new Color("#b8693d");
const OTHERS = ["#8a7a55", "#6d8379", "#9a6a72", "#6f7a8c"].map((c) => new Color(c));
const STOP = new Color("#e0455f");
const BETWEEN = new Color("#fff6e2");
const WATCH = new Color("#e0a83a");

/** One piece of a body's surface: its geometry in its own axes, with the true length at each vertex (mm) in
 * `_length`, the body's number, and its paint where it has one. */
export interface Piece {
  geometry: BufferGeometry;
  body: number;
  paint: Color | null;
  /** The colour of its material with its finish. */
  look: Color;
}

/** The pieces in the preview. */
export async function piecesOf(glb: ArrayBuffer): Promise<Piece[]> {
  const { scene } = await loader.parseAsync(glb, "");
  const pieces: Piece[] = [];
  scene.children.forEach((node, body) =>
    node.traverse((object) => {
      const mesh = object as Mesh;
      if (!mesh.isMesh) return;
      const material = mesh.material as MeshStandardMaterial;
      const painted = material.name.startsWith("paint ");
      pieces.push({
        geometry: mesh.geometry,
        body,
        paint: painted ? material.color.clone() : null,
        look: material.color.clone(),
      });
      mesh.geometry.computeBoundingSphere();
    }),
  );
  if (!pieces.length) throw new Error("the preview holds no mesh");
  return pieces;
}

/** A value along the wire, 0 to 1 at true lengths, that it is painted by. */
export interface Shade {
  s: readonly number[];
  share: readonly (number | null)[];
}

const PALE = new Color("#f0dfbd");
const DEEP = new Color("#7a1622");

/** The colour of a share: pale, over the wire's own, to deep. */
export function shadeOf(share: number): Color {
  const t = Math.min(Math.max(share, 0), 1);
  return t < 0.5 ? PALE.clone().lerp(WIRE, 2 * t) : WIRE.clone().lerp(DEEP, 2 * t - 1);
}

function shadeAt(shade: Shade, s: number): Color | null {
  const last = shade.s.length - 1;
  const place = Math.min(Math.max(s / (shade.s[last] || 1), 0), 1) * last;
  const value = shade.share[Math.round(place)];
  return value === null || value === undefined ? null : shadeOf(value);
}

/** How wide the stripes are that a stop is marked by, mm: two rows of the mesh's vertices. */
function stripeOf({ array }: BufferGeometry["attributes"][string]): number {
  const rows = new Set(array);
  let whole = 0;
  for (const length of rows) whole = Math.max(whole, length);
  return (2 * whole) / Math.max(rows.size - 1, 1);
}

/** Whether a colour is so like that of a stop that the mark would not be seen on it. */
function likeStop(colour: Color): boolean {
  const mark = STOP.getHSL({ h: 0, s: 0, l: 0 }, SRGBColorSpace);
  const own = colour.getHSL({ h: 0, s: 0, l: 0 }, SRGBColorSpace);
  const apart = Math.abs(mark.h - own.h);
  return own.s > 0.3 && Math.min(apart, 1 - apart) < 0.06;
}

/** Paint each vertex, and say whether any changed: the wire's colour, that of its material where it is shown
 * `asFinished`, or its shade; where a check watches or stops in its own, and on a red part in stripes. */
export function paint(
  pieces: Piece[],
  report: Said | null,
  shade: Shade | null = null,
  asFinished = false,
): boolean {
  let changed = false;
  const spans = (report?.checks ?? [])
    .filter((check) => check.verdict !== "clear")
    .sort((a) => (a.verdict === "stop" ? 1 : -1))
    .flatMap((check) =>
      check.where.map(([from, to]) => ({
        from: from ?? 0,
        to: to ?? 0,
        stops: check.verdict === "stop",
      })),
    );
  for (const piece of pieces) {
    const lengths = piece.geometry.getAttribute("_length");
    const count = lengths.count;
    const before = piece.geometry.getAttribute("color")?.array;
    const painted = new Float32Array(count * 3);
    const own =
      piece.paint ??
      (asFinished ? piece.look : null) ??
      (piece.body === 0 ? WIRE : OTHERS[(piece.body - 1) % OTHERS.length]!);
    const stripe = spans.length > 0 && likeStop(own) ? stripeOf(lengths) : Infinity;
    for (let i = 0; i < count; i++) {
      let colour = own;
      if (piece.body === 0) {
        const s = lengths.getX(i);
        if (shade) colour = shadeAt(shade, s) ?? own;
        for (const { from, to, stops } of spans)
          if (s >= from && s <= to)
            colour = !stops ? WATCH : Math.floor((s - from) / stripe) % 2 === 0 ? STOP : BETWEEN;
      }
      painted[3 * i] = colour.r;
      painted[3 * i + 1] = colour.g;
      painted[3 * i + 2] = colour.b;
    }
    if (before && painted.every((value, k) => value === before[k])) continue;
    piece.geometry.setAttribute("color", new BufferAttribute(painted, 3));
    changed = true;
  }
  return changed;
}

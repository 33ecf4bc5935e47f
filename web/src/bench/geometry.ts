/** From the bytes of the preview to a geometry in mm, z up, painted by what the checks say. */

import { BufferAttribute, BufferGeometry, Color, type Mesh } from "three";
import { GLTFLoader } from "three/addons/loaders/GLTFLoader.js";
import type { Report } from "../api/client";

const loader = new GLTFLoader();
const WIRE = new Color("#b8693d");
const STOP = new Color("#c22f4b");
const WATCH = new Color("#d99a1f");

/** The geometry in the preview, in its own axes; `_length` is the true length at each vertex, mm. */
export async function geometryOf(glb: ArrayBuffer): Promise<BufferGeometry> {
  const { scene } = await loader.parseAsync(glb, "");
  let geometry: BufferGeometry | null = null;
  scene.traverse((object) => {
    const mesh = object as Mesh;
    if (mesh.isMesh) geometry = mesh.geometry;
  });
  if (!geometry) throw new Error("the preview holds no mesh");
  return geometry;
}

/** Paint each vertex: the wire's colour, and the places where a check stops or watches in its own. */
export function paint(geometry: BufferGeometry, report: Report | null): void {
  const lengths = geometry.getAttribute("_length");
  const count = lengths.count;
  const painted = new Float32Array(count * 3);
  const spans = (report?.checks ?? [])
    .filter((check) => check.verdict !== "clear")
    .sort((a) => (a.verdict === "stop" ? 1 : -1))
    .flatMap((check) =>
      check.where.map(([from, to]) => ({
        from: from ?? 0,
        to: to ?? 0,
        colour: check.verdict === "stop" ? STOP : WATCH,
      })),
    );
  for (let i = 0; i < count; i++) {
    const s = lengths.getX(i);
    let colour = WIRE;
    for (const span of spans) if (s >= span.from && s <= span.to) colour = span.colour;
    painted[3 * i] = colour.r;
    painted[3 * i + 1] = colour.g;
    painted[3 * i + 2] = colour.b;
  }
  geometry.setAttribute("color", new BufferAttribute(painted, 3));
}

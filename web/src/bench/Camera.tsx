import { OrbitControls, OrthographicCamera, PerspectiveCamera } from "@react-three/drei";
import { useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import {
  Vector3,
  type OrthographicCamera as Orthographic,
  type PerspectiveCamera as Perspective,
  type Sphere,
} from "three";
import type { OrbitControls as Controls } from "three-stdlib";
import { useDesk } from "../state/bench";
import type { Piece } from "./geometry";
import { sharpError } from "./sharp";

export const VIEWS = {
  Fit: null,
  Top: [0, -0.0001, 1],
  Front: [0, -1, 0],
  Side: [1, 0, 0],
} as const;
export type View = keyof typeof VIEWS;

/** The part is fitted again where its size or place changes by this share of it. */
const MUCH = 0.2;

const FIELD = 32;
const HALF_FIELD = (FIELD / 2) * (Math.PI / 180);

/** So many radii of it are seen where a part is fitted in. */
const FITTED = 2.25;

const FIRST_VIEW = new Vector3(0.55, -1, 0.45).normalize();

/** The sphere around all pieces. */
export function around(pieces: Piece[]): Sphere | null {
  const spheres = pieces.map((piece) => piece.geometry.boundingSphere).filter((s) => s !== null);
  const [first, ...rest] = spheres;
  if (!first) return null;
  return rest.reduce((whole, sphere) => whole.union(sphere), first.clone());
}

/** The camera and its controls: it stands as asked, and otherwise stays where it was put. */
export function Camera(props: {
  parallel: boolean;
  sphere: Sphere | null;
  wanted: { view: View; count: number };
}) {
  const { parallel, sphere, wanted } = props;
  const controls = useRef<Controls>(null);
  const size = useThree((state) => state.size);
  const invalidate = useThree((state) => state.invalidate);
  const camera = useThree((state) => state.camera) as Perspective | Orthographic;
  const sharpen = useDesk((state) => state.sharpen);
  const done = useRef("");
  const direction = useRef(FIRST_VIEW.clone());
  const fitted = useRef<Sphere | null>(null);
  const moved = useRef(false);
  useEffect(() => {
    const right = parallel === "isOrthographicCamera" in camera;
    const key = `${wanted.count} ${Boolean(sphere)} ${camera.uuid}`;
    const stale = !moved.current && sphere !== null && changedMuch(fitted.current, sphere);
    if (!right || !sphere || !controls.current || (done.current === key && !stale)) return;
    fitted.current = sphere.clone();
    if (!done.current.startsWith(`${wanted.count} `)) moved.current = false;
    const named = VIEWS[wanted.view];
    const asked = !done.current.startsWith(`${wanted.count} `);
    if (named && asked) direction.current.set(named[0], named[1], named[2]).normalize();
    done.current = key;
    const aspect = Math.min(1, size.width / size.height);
    const distance = (sphere.radius * 1.12) / Math.sin(HALF_FIELD) / aspect;
    camera.up.set(0, 0, 1);
    camera.position.copy(sphere.center).addScaledVector(direction.current, distance);
    if ("isOrthographicCamera" in camera) {
      camera.zoom = Math.min(size.width, size.height) / (FITTED * sphere.radius);
    }
    camera.near = distance / 200;
    camera.far = distance * 20;
    camera.updateProjectionMatrix();
    controls.current.target.copy(sphere.center);
    controls.current.update();
    invalidate();
  }, [camera, parallel, sphere, wanted, size, invalidate]);
  return (
    <>
      {parallel ? (
        <OrthographicCamera makeDefault up={[0, 0, 1]} />
      ) : (
        <PerspectiveCamera makeDefault fov={FIELD} up={[0, 0, 1]} />
      )}
      <OrbitControls
        ref={controls}
        makeDefault
        enableDamping={false}
        onStart={() => (moved.current = true)}
        onChange={() => {
          const now = controls.current;
          if (!now) return;
          const away = direction.current.copy(now.object.position).sub(now.target).length();
          direction.current.normalize();
          if (!sphere) return;
          const narrow = Math.min(size.width, size.height);
          sharpen(
            sharpError(pixelAt(away, camera, size.height), (FITTED * sphere.radius) / narrow),
          );
        }}
      />
    </>
  );
}

/** How wide a pixel is, mm, so far away from the eye. */
function pixelAt(away: number, camera: Perspective | Orthographic, height: number): number {
  if ("isOrthographicCamera" in camera) return 1 / camera.zoom;
  return (2 * away * Math.tan(HALF_FIELD)) / height;
}

function changedMuch(before: Sphere | null, now: Sphere): boolean {
  if (!before) return true;
  const off = before.center.distanceTo(now.center) + Math.abs(before.radius - now.radius);
  return off > MUCH * before.radius;
}

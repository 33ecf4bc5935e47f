import { useThree } from "@react-three/fiber";
import { useDeferredValue, useEffect, useMemo } from "react";
import { DataTexture, LinearFilter, type Sphere } from "three";
import { footprint, GRID, type Ground } from "./footprint";
import type { Piece } from "./geometry";

const DARK = 0.3;

/** What the part throws on the ground under it; not there for an eye that is under it as well. */
export function GroundShadow({ pieces, sphere }: { pieces: Piece[]; sphere: Sphere | null }) {
  const shown = useDeferredValue(pieces);
  const ground = useMemo(() => sphere && groundOf(shown, sphere), [shown, sphere]);
  const shadow = useMemo(
    () => ground && sphere && textureOf(shown, ground, sphere.radius),
    [shown, ground, sphere],
  );
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    invalidate();
    return () => shadow?.dispose();
  }, [shadow, invalidate]);
  if (!ground || !shadow) return null;
  const { x, y, z, half } = ground;
  return (
    <mesh position={[x, y, z]} raycast={() => undefined} renderOrder={-1}>
      <planeGeometry args={[2 * half, 2 * half]} />
      <meshBasicMaterial map={shadow} transparent depthWrite={false} />
    </mesh>
  );
}

function groundOf(pieces: Piece[], sphere: Sphere): Ground {
  let z = Infinity;
  for (const { geometry } of pieces) {
    if (!geometry.boundingBox) geometry.computeBoundingBox();
    z = Math.min(z, geometry.boundingBox!.min.z);
  }
  return { x: sphere.center.x, y: sphere.center.y, half: 1.3 * sphere.radius, z };
}

function textureOf(pieces: Piece[], ground: Ground, radius: number): DataTexture {
  const dark = footprint(
    pieces.map((piece) => piece.geometry),
    ground,
    radius,
  );
  const pixels = new Uint8Array(4 * dark.length);
  dark.forEach((value, k) => (pixels[4 * k + 3] = 255 * DARK * value));
  const texture = new DataTexture(pixels, GRID, GRID);
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}

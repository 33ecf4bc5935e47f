import { useThree } from "@react-three/fiber";
import { useDeferredValue, useEffect, useMemo } from "react";
import { DataTexture, LinearFilter } from "three";
import { around } from "./Camera";
import { footprint, GRID, type Ground } from "./footprint";
import type { Piece } from "./geometry";

const DARK = 0.3;

/** What the part throws on the ground under it; not there for an eye that is under it as well. It is drawn once the
 * part is. */
export function GroundShadow({ pieces }: { pieces: Piece[] }) {
  const shown = useDeferredValue(pieces);
  const shadow = useMemo(() => shadowOf(shown), [shown]);
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    invalidate();
    return () => shadow?.texture.dispose();
  }, [shadow, invalidate]);
  if (!shadow) return null;
  const { x, y, z, half } = shadow.ground;
  return (
    <mesh position={[x, y, z]} raycast={() => undefined} renderOrder={-1}>
      <planeGeometry args={[2 * half, 2 * half]} />
      <meshBasicMaterial map={shadow.texture} transparent depthWrite={false} />
    </mesh>
  );
}

function shadowOf(pieces: Piece[]): { ground: Ground; texture: DataTexture } | null {
  const sphere = around(pieces);
  if (!sphere) return null;
  const geometries = pieces.map((piece) => piece.geometry);
  geometries.forEach((geometry) => geometry.computeBoundingBox());
  const { x, y } = sphere.center;
  const z = Math.min(...geometries.map((geometry) => geometry.boundingBox!.min.z));
  const ground = { x, y, half: 1.3 * sphere.radius, z };
  const pixels = new Uint8Array(4 * GRID * GRID);
  footprint(geometries, ground, sphere.radius).forEach(
    (value, k) => (pixels[4 * k + 3] = 255 * DARK * value),
  );
  const texture = new DataTexture(pixels, GRID, GRID);
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return { ground, texture };
}

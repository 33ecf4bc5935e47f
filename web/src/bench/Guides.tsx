import { Line } from "@react-three/drei";
import { useThree, type ThreeEvent } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  BufferGeometry,
  DoubleSide,
  Float32BufferAttribute,
  Plane,
  Vector2,
  Vector3,
  type Sphere,
} from "three";
import type { OrbitControls as Controls } from "three-stdlib";
import type { Report } from "../api/client";
import { useLook } from "../look/Look";
import { MM } from "../look/numbers";
import { useRecipe } from "../state/bench";
import { usePartContext } from "./PartContext";

type Triple = [number, number, number];

/** What the wire goes by: a turned body, a second curve, the core of a winding. */
export function Guides({ report }: { report: Report | null }) {
  const { colours } = useLook();
  const invalidate = useThree((state) => state.invalidate);
  const guides = report?.guides;
  useEffect(() => invalidate(), [guides?.body, guides?.aim, guides?.core, invalidate]);
  const outline = useMemo(
    () => guides?.body?.map(([r, z]) => new Vector2(Math.max(r ?? 0, 1e-4), z ?? 0)) ?? null,
    [guides?.body],
  );
  if (!guides) return null;
  return (
    <>
      {outline && outline.length > 1 && (
        <mesh rotation={[Math.PI / 2, 0, 0]} scale={[1, 1, -1]} raycast={() => undefined}>
          <latheGeometry args={[outline, 72]} />
          <meshStandardMaterial
            color={colours.pencil}
            transparent
            opacity={0.28}
            depthWrite={false}
            side={DoubleSide}
          />
        </mesh>
      )}
      {[guides.aim, guides.core].map(
        (line, index) =>
          line && (
            <Line
              key={index}
              points={line as Triple[]}
              color={colours.ink}
              lineWidth={1.2}
              dashed
              dashSize={2}
              gapSize={1.2}
              raycast={() => undefined}
            />
          ),
      )}
    </>
  );
}

/** The reference bodies at their places. */
export function ReferenceBodies({ report }: { report: Report | null }) {
  const { recipe, unit } = usePartContext();
  const { colours } = useLook();
  const bodies = recipe.fit?.bodies ?? NONE;
  const meshes = useMemo(() => bodies.map((body) => body.mesh), [bodies]);
  const geometries = useMemo(
    () =>
      meshes.map((mesh) => {
        const geometry = new BufferGeometry();
        geometry.setAttribute("position", new Float32BufferAttribute(mesh.vertices.flat(), 3));
        geometry.setIndex(mesh.faces.flat());
        geometry.computeVertexNormals();
        return geometry;
      }),
    [meshes],
  );
  useEffect(() => () => geometries.forEach((geometry) => geometry.dispose()), [geometries]);
  const invalidate = useThree((state) => state.invalidate);
  const placed = geometries.length > 0 ? report : null;
  useEffect(() => invalidate(), [geometries, placed, invalidate]);
  const value = (place: string, factor: number) => (report?.values[place] ?? 0) * factor;
  return geometries.map((geometry, index) => (
    <mesh
      key={index}
      geometry={geometry}
      position={[0, 1, 2].map((k) => value(`/fit/bodies/${index}/at/${k}`, MM[unit])) as Triple}
      rotation={[0, 0, value(`/fit/bodies/${index}/turn`, Math.PI / 180)]}
      raycast={() => undefined}
    >
      <meshStandardMaterial
        color={colours.pencil}
        flatShading
        transparent
        opacity={0.5}
        side={DoubleSide}
      />
    </mesh>
  ));
}

const NONE: never[] = [];

/** A few sections along the path, so that the stance is seen. */
export function Ribs({ report }: { report: Report | null }) {
  const { colours } = useLook();
  const closed = report?.section.closed !== false;
  return report?.ribs.map((ring, index) => (
    <Line
      key={index}
      points={(closed ? [...ring, ring[0]!] : ring) as Triple[]}
      color={colours.ink}
      lineWidth={1.8}
      raycast={() => undefined}
    />
  ));
}

/** The points of a path through points, dragged in the plane that faces the eye. */
export function PathPoints({ sphere }: { sphere: Sphere | null }) {
  const { part, recipe, unit } = usePartContext();
  const { colours } = useLook();
  const set = useRecipe((state) => state.set);
  const camera = useThree((state) => state.camera);
  const controls = useThree((state) => state.controls) as Controls | null;
  const invalidate = useThree((state) => state.invalidate);
  const plane = useRef(new Plane());
  const [dragged, setDragged] = useState<number | null>(null);
  const path = recipe.path.kind === "points" ? recipe.path : null;
  useEffect(() => invalidate(), [dragged, path, invalidate]);
  if (!path || !sphere) return null;
  const known = part.report?.guides.points ?? [];
  const places = path.points.map((point, index) =>
    point.map((value, k) =>
      typeof value === "number" ? value * MM[unit] : (known[index]?.[k] ?? 0),
    ),
  ) as Triple[];
  const stop = () => {
    setDragged(null);
    if (controls) controls.enabled = true;
  };
  const grab = (event: ThreeEvent<PointerEvent>, index: number) => {
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    const facing = camera.getWorldDirection(new Vector3());
    plane.current.setFromNormalAndCoplanarPoint(facing, new Vector3(...places[index]!));
    if (controls) controls.enabled = false;
    setDragged(index);
  };
  const move = (event: ThreeEvent<PointerEvent>, index: number) => {
    if (dragged !== index) return;
    event.stopPropagation();
    const hit = event.ray.intersectPlane(plane.current, new Vector3());
    if (!hit) return;
    const digits = Math.max(
      0,
      3 - Math.floor(Math.log10(Math.max(sphere.radius / MM[unit], 1e-6))),
    );
    const next = hit.toArray().map((value) => Number((value / MM[unit]).toFixed(digits)));
    set(`/path/points/${index}`, next);
  };
  return places.map((place, index) => (
    <mesh
      key={index}
      position={place}
      renderOrder={3}
      onPointerDown={(event) => grab(event, index)}
      onPointerMove={(event) => move(event, index)}
      onPointerUp={stop}
    >
      <sphereGeometry args={[sphere.radius * (dragged === index ? 0.05 : 0.036), 20, 14]} />
      <meshBasicMaterial
        color={dragged === index ? colours.copper : colours.ink}
        depthTest={false}
        transparent
        opacity={0.85}
      />
    </mesh>
  ));
}

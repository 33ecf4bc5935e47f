import { invalidate, type ThreeEvent } from "@react-three/fiber";
import { useCallback, useEffect, useLayoutEffect, useMemo } from "react";
import { DoubleSide, Plane, Vector3, type Mesh } from "three";
import { type Report, type Said } from "../api/client";
import { useLook } from "../look/Look";
import { useDesk } from "../state/bench";
import { changed } from "../state/timing";
import { paint, type Piece, type Shade } from "./geometry";
import { useThreaded, useTold } from "./PartContext";

const MOST_PICKED = 150_000;

export interface Settings {
  parallel: boolean;
  wireframe: boolean;
  cut: number | null;
}

/** The stress along a spring as a share of what is allowed, while its load is on the bench. */
export function useStressShade(): Shade | null {
  const told = useTold().report;
  const threaded = useThreaded();
  const step = useDesk((state) => state.step);
  const report = threaded ? null : (told as Report | null);
  return useMemo(() => {
    const allowed = report?.spring?.figures.find((figure) => figure.key === "allowed")?.value;
    if (step !== "load" || !allowed || !report?.strip.stress) return null;
    const share = report.strip.stress.map((stress) => (stress === null ? null : stress / allowed));
    return { s: report.strip.s, share };
  }, [report, step]);
}

/** Paints the pieces of the latest shape by the latest report, or as finished where that is asked for. */
export function usePaint(
  pieces: Piece[],
  report: Said | null,
  shade: Shade | null,
  asFinished: boolean,
): void {
  useLayoutEffect(() => {
    if (paint(pieces, report, shade, asFinished)) invalidate();
  }, [pieces, report, shade, asFinished]);
  useLayoutEffect(() => {
    if (pieces.length > 0) changed();
  }, [pieces]);
}

interface PieceProps {
  piece: Piece;
  radius: number;
  settings: Settings;
  /** Takes the corner of the mesh that is nearest to a place that is pressed on. */
  onPlace?: ((place: Vector3) => void) | undefined;
}

export function PartPiece({ piece, radius, settings, onPlace }: PieceProps) {
  const { geometry } = piece;
  const { colours } = useLook();
  const setCursor = useDesk((state) => state.setCursor);
  const step = useDesk((state) => state.step);
  const planes = useMemo(
    () => (settings.cut === null ? [] : [new Plane(new Vector3(0, 1, 0), -settings.cut * radius)]),
    [settings.cut, radius],
  );
  const { report } = useTold();
  const faint = report?.verdict === "stop" || step === "stance";
  useEffect(() => invalidate(), [geometry, settings, colours, faint, step]);
  const pick = useCallback(
    (event: ThreeEvent<PointerEvent>) => {
      const face = event.face;
      const lengths = geometry.getAttribute("_length");
      if (face) setCursor((lengths.getX(face.a) + lengths.getX(face.b) + lengths.getX(face.c)) / 3);
    },
    [geometry, setCursor],
  );
  const picked = piece.body === 0 && (geometry.index?.count ?? 0) / 3 < MOST_PICKED;
  return (
    <>
      <mesh
        geometry={geometry}
        onPointerMove={picked ? pick : undefined}
        onClick={(event) => {
          if (!onPlace) return;
          event.stopPropagation();
          onPlace(snapped(event));
        }}
        dispose={null}
      >
        <meshStandardMaterial
          key={`${planes.length} ${faint}`}
          vertexColors
          roughness={0.42}
          metalness={0.25}
          side={DoubleSide}
          transparent={faint}
          opacity={faint ? 0.55 : 1}
          depthWrite={!faint}
          wireframe={settings.wireframe}
          clippingPlanes={planes}
        />
      </mesh>
      {settings.cut !== null && (
        <mesh geometry={geometry} dispose={null} raycast={() => undefined}>
          <meshBasicMaterial
            color={piece.body === 0 ? colours.pencil : colours.line}
            side={1}
            clippingPlanes={planes}
          />
        </mesh>
      )}
    </>
  );
}

/** The corner of the pressed triangle that is nearest to where it was pressed. */
function snapped(event: ThreeEvent<MouseEvent>): Vector3 {
  const { face, object, point } = event;
  const places = (object as Mesh).geometry.getAttribute("position");
  const corners = [face!.a, face!.b, face!.c].map((index) =>
    object.localToWorld(new Vector3().fromBufferAttribute(places, index)),
  );
  return corners.reduce((best, one) =>
    one.distanceTo(point) < best.distanceTo(point) ? one : best,
  );
}

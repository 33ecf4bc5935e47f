import Box from "@mui/material/Box";
import Slider from "@mui/material/Slider";
import Stack from "@mui/material/Stack";
import ToggleButton from "@mui/material/ToggleButton";
import Button from "@mui/material/Button";
import { Canvas, useThree, type ThreeEvent } from "@react-three/fiber";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { DoubleSide, Plane, Vector3, type Sphere } from "three";
import { isThreaded, type Report, type Said } from "../api/client";
import { useLook } from "../look/Look";
import { MM, lengthText } from "../look/numbers";
import { useDesk } from "../state/bench";
import { around, Camera, VIEWS, type View } from "./Camera";
import { Guides, PathPoints, ReferenceBodies, Ribs } from "./Guides";
import { paint, piecesOf, type Piece, type Shade } from "./geometry";
import { useBench, usePartContext } from "./PartContext";

const MOST_PICKED = 150_000;

interface Settings {
  parallel: boolean;
  wireframe: boolean;
  cut: number | null;
}

/** The part in space: orbit, standard views, wire-frame, section plane, and the shared cursor on it. */
export function View3D() {
  const { part, recipe, unit } = useBench();
  const { colours } = useLook();
  const [settings, setSettings] = useState<Settings>({
    parallel: false,
    wireframe: false,
    cut: null,
  });
  const [wanted, setWanted] = useState<{ view: View; count: number }>({
    view: "Fit",
    count: 0,
  });
  const step = useDesk((state) => state.step);
  const asFinished = step === "weigh" || Boolean(recipe.finish);
  const pieces = usePieces(part.glb, part.report, useStressShade(), asFinished);
  const asExported = useDesk((state) => state.chordError) !== null;
  const look = (view: View) => setWanted((old) => ({ view, count: old.count + 1 }));
  const change = (some: Partial<Settings>) => setSettings((old) => ({ ...old, ...some }));
  const sphere = useMemo(() => around(pieces), [pieces]);
  return (
    <Box
      sx={{ position: "absolute", inset: 0 }}
      role="region"
      aria-label="The part in space"
      onKeyDown={(event) => {
        const view = ({ f: "Fit", "1": "Top", "2": "Front", "3": "Side" } as const)[event.key];
        if (view && event.target === event.currentTarget.querySelector("[data-space]")) look(view);
      }}
    >
      <div
        data-space
        tabIndex={0}
        aria-label="Space: F fits, 1 top, 2 front, 3 side"
        role="group"
        style={{ position: "absolute", inset: 0 }}
      >
        <Canvas frameloop="demand" gl={{ localClippingEnabled: true }} dpr={[1, 2]}>
          <Camera parallel={settings.parallel} sphere={sphere} wanted={wanted} />
          <hemisphereLight args={["#ffffff", "#8a7d6c", 1.5]} />
          <directionalLight position={[-40, -90, 120]} intensity={2.2} />
          <directionalLight position={[90, 40, -30]} intensity={0.6} />
          {pieces.map((piece, index) => (
            <PartPiece
              key={index}
              piece={piece}
              radius={sphere?.radius ?? 1}
              settings={asExported ? { ...settings, wireframe: true } : settings}
            />
          ))}
          {!isThreaded(recipe) && <AboutTheWire sphere={sphere} />}
        </Canvas>
      </div>
      <Stack
        direction="row"
        useFlexGap
        sx={{ position: "absolute", top: 8, left: 10, right: 10, gap: 0.5, flexWrap: "wrap" }}
      >
        {(Object.keys(VIEWS) as View[]).map((view) => (
          <Button
            key={view}
            variant="text"
            onClick={() => look(view)}
            sx={{ minWidth: 0, bgcolor: colours.sheet }}
          >
            {view}
          </Button>
        ))}
        <Box sx={{ flex: 1 }} />
        <Toggle
          name="Parallel"
          on={settings.parallel}
          onChange={(parallel) => change({ parallel })}
        />
        <Toggle
          name="Wire-frame"
          on={settings.wireframe}
          onChange={(wireframe) => change({ wireframe })}
        />
        <Toggle
          name="Section plane"
          on={settings.cut !== null}
          onChange={(on) => change({ cut: on ? 0 : null })}
        />
      </Stack>
      {settings.cut !== null && sphere && (
        <Stack
          direction="row"
          spacing={2}
          sx={{
            position: "absolute",
            top: 44,
            right: 16,
            width: 260,
            alignItems: "center",
            bgcolor: colours.sheet,
            px: 1.5,
          }}
        >
          <Slider
            size="small"
            aria-label="Place of the section plane, from the axis"
            min={-1}
            max={1}
            step={0.005}
            value={settings.cut}
            onChange={(_, value) => change({ cut: value })}
          />
          <span style={{ whiteSpace: "nowrap" }}>
            {lengthText(settings.cut * sphere.radius, unit)}
          </span>
        </Stack>
      )}
    </Box>
  );
}

/** What stands beside a wound part: what it fits, what it goes by, its points and the cursor. */
function AboutTheWire({ sphere }: { sphere: Sphere | null }) {
  const { part } = usePartContext();
  const step = useDesk((state) => state.step);
  return (
    <>
      <FitBodies sphere={sphere} />
      <Guides report={part.report} />
      <ReferenceBodies report={part.report} />
      {step === "stance" && <Ribs report={part.report} />}
      {step === "path" && <PathPoints sphere={sphere} />}
      <Cursor report={part.report} sphere={sphere} />
    </>
  );
}

function Toggle(props: { name: string; on: boolean; onChange: (on: boolean) => void }) {
  const { colours } = useLook();
  return (
    <ToggleButton
      value={props.name}
      size="small"
      selected={props.on}
      onChange={() => props.onChange(!props.on)}
      sx={{ py: 0.2, px: 1, textTransform: "none", color: "text.primary", bgcolor: colours.sheet }}
    >
      {props.name}
    </ToggleButton>
  );
}

/** The stress along a spring as a share of what is allowed, while its load is on the bench. */
function useStressShade(): Shade | null {
  const { part, recipe } = useBench();
  const step = useDesk((state) => state.step);
  const report = isThreaded(recipe) ? null : (part.report as Report | null);
  return useMemo(() => {
    const allowed = report?.spring?.figures.find((figure) => figure.key === "allowed")?.value;
    if (step !== "load" || !allowed || !report?.strip.stress) return null;
    const share = report.strip.stress.map((stress) => (stress === null ? null : stress / allowed));
    return { s: report.strip.s, share };
  }, [report, step]);
}

/** The pieces of the latest preview, painted by the latest report, or as finished where that is asked for. */
function usePieces(
  glb: ArrayBuffer | null,
  report: Said | null,
  shade: Shade | null,
  asFinished: boolean,
): Piece[] {
  const [pieces, setPieces] = useState<Piece[]>([]);
  const told = useRef({ report, shade, asFinished });
  useEffect(() => {
    told.current = { report, shade, asFinished };
  }, [report, shade, asFinished]);
  useEffect(() => {
    if (!glb) return;
    let current = true;
    piecesOf(glb).then((next) => {
      if (!current) return next.forEach((piece) => piece.geometry.dispose());
      paint(next, told.current.report, told.current.shade, told.current.asFinished);
      next.forEach((piece) => piece.geometry.computeBoundingSphere());
      setPieces((old) => {
        old.forEach((piece) => piece.geometry.dispose());
        return next;
      });
    });
    return () => {
      current = false;
    };
  }, [glb]);
  useEffect(() => paint(pieces, report, shade, asFinished), [pieces, report, shade, asFinished]);
  return pieces;
}

function PartPiece(props: { piece: Piece; radius: number; settings: Settings }) {
  const { piece, radius, settings } = props;
  const { geometry } = piece;
  const { colours } = useLook();
  const setCursor = useDesk((state) => state.setCursor);
  const step = useDesk((state) => state.step);
  const invalidate = useThree((state) => state.invalidate);
  const planes = useMemo(
    () => (settings.cut === null ? [] : [new Plane(new Vector3(0, 1, 0), -settings.cut * radius)]),
    [settings.cut, radius],
  );
  const { report } = useBench().part;
  const faint = report?.verdict === "stop" || step === "stance";
  useEffect(() => invalidate(), [geometry, settings, report, colours, faint, step, invalidate]);
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
      <mesh geometry={geometry} onPointerMove={picked ? pick : undefined} dispose={null}>
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
            color={piece.body === 0 ? colours.ink : colours.pencil}
            side={1}
            clippingPlanes={planes}
          />
        </mesh>
      )}
    </>
  );
}

/** The bore and the rod that the part is to fit, as faint bodies. */
function FitBodies({ sphere }: { sphere: Sphere | null }) {
  const { part } = usePartContext();
  const { colours } = useLook();
  const values = part.report?.values ?? {};
  const { unit } = usePartContext();
  const scale = MM[unit];
  if (!sphere) return null;
  const strip = part.report?.strip;
  const low = Math.min(...(strip?.z ?? [0]));
  const high = Math.max(...(strip?.z ?? [0]));
  const body = (place: string, opacity: number, spare: number) => {
    const diameter = values[place];
    if (!diameter) return null;
    return (
      <mesh
        key={place}
        position={[0, 0, (low + high) / 2]}
        rotation={[Math.PI / 2, 0, 0]}
        raycast={() => undefined}
      >
        <cylinderGeometry
          args={[(diameter * scale) / 2, (diameter * scale) / 2, high - low + spare, 64, 1, true]}
        />
        <meshBasicMaterial
          color={colours.pencil}
          transparent
          opacity={opacity}
          depthWrite={false}
          side={DoubleSide}
        />
      </mesh>
    );
  };
  return (
    <>
      {body("/fit/bore", 0.1, sphere.radius * 0.15)}
      {body("/fit/rod", 0.22, sphere.radius * 0.4)}
    </>
  );
}

function Cursor({ report, sphere }: { report: Report | null; sphere: Sphere | null }) {
  const cursor = useDesk((state) => state.cursor);
  const { colours } = useLook();
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => invalidate(), [cursor, invalidate]);
  const worst = report?.checks.find((check) => check.verdict === "stop" && check.points.length);
  const marks: [number[], string, number][] = [];
  if (report && cursor !== null) {
    const { s, x, y, z } = report.strip;
    const last = s.length - 1;
    const place = Math.min(1, Math.max(0, cursor / (s[last] || 1))) * last;
    const i = Math.min(Math.floor(place), last - 1);
    const t = place - i;
    const mix = (lane: number[]) => lane[i]! * (1 - t) + lane[i + 1]! * t;
    marks.push([[mix(x), mix(y), mix(z)], colours.ink, 0.03]);
  }
  for (const point of worst?.points ?? []) marks.push([point, colours.stop, 0.035]);
  if (!sphere) return null;
  return marks.map(([point, colour, size], index) => (
    <mesh
      key={index}
      position={[point[0]!, point[1]!, point[2]!]}
      renderOrder={2}
      raycast={() => undefined}
    >
      <sphereGeometry args={[sphere.radius * size, 20, 14]} />
      <meshBasicMaterial color={colour} depthTest={false} transparent opacity={0.85} />
    </mesh>
  ));
}

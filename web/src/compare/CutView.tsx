import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import { useMemo, useRef, useState } from "react";
import type { Sphere } from "three";
import type { Piece } from "../bench/geometry";
import { digits } from "../look/numbers";
import { acrossAxis, cut, throughAxis, type Segment } from "./cuts";
import { AFTER, BEFORE, type Shown } from "./sources";

/** The plane of a cut. */
export type Through = "axis" | "level";

interface Props {
  old: Piece[];
  now: Piece[];
  sphere: Sphere;
  through: Through;
  shown: Shown;
}

/** Both parts cut by one plane, in true shape: the wheel brings it nearer, dragging moves it. */
export function CutView({ old, now, sphere, through, shown }: Props) {
  const { center, radius } = sphere;
  const [angle, setAngle] = useState(0);
  const [height, setHeight] = useState(center.z);
  const [view, setView] = useState({ x: 0, y: 0, zoom: 1 });
  const held = useRef<{ x: number; y: number } | null>(null);
  const plane = useMemo(
    () => (through === "axis" ? throughAxis(angle) : acrossAxis(height)),
    [through, angle, height],
  );
  const before = useMemo(() => lines(cut(old, plane)), [old, plane]);
  const after = useMemo(() => lines(cut(now, plane)), [now, plane]);
  const middle = through === "axis" ? [0, center.z] : [center.x, center.y];
  const half = (1.15 * radius) / view.zoom;
  const bar = nice(half / 2);
  const move = (event: React.PointerEvent) => {
    if (!held.current) return;
    const { width, height: tall } = event.currentTarget.getBoundingClientRect();
    const perPixel = (2 * half) / Math.min(width, tall);
    const dx = (event.clientX - held.current.x) * perPixel;
    const dy = (event.clientY - held.current.y) * perPixel;
    held.current = { x: event.clientX, y: event.clientY };
    setView((last) => ({ ...last, x: last.x - dx, y: last.y - dy }));
  };
  const [x, y] = [middle[0]! + view.x, -middle[1]! + view.y];
  return (
    <Box sx={{ position: "absolute", inset: 0, display: "flex", flexDirection: "column" }}>
      <Box
        component="svg"
        role="img"
        aria-label="Both parts cut by one plane"
        viewBox={`${x - half} ${y - half} ${2 * half} ${2 * half}`}
        onWheel={(event) => {
          const factor = event.deltaY > 0 ? 1 / 1.2 : 1.2;
          setView((last) => ({ ...last, zoom: Math.min(60, Math.max(0.5, last.zoom * factor)) }));
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { x: event.clientX, y: event.clientY };
        }}
        onPointerMove={move}
        onPointerUp={() => (held.current = null)}
        sx={{ flex: 1, minHeight: 0, cursor: "grab", touchAction: "none" }}
      >
        {through === "axis" && (
          <line
            x1={0}
            x2={0}
            y1={-center.z - 1.05 * radius}
            y2={-center.z + 1.05 * radius}
            stroke="currentColor"
            strokeOpacity={0.35}
            strokeDasharray="12 4 2 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {shown !== "after" && <Lines d={before} colour={BEFORE} />}
        {shown !== "before" && <Lines d={after} colour={AFTER} />}
        <g transform={`translate(${x - 0.94 * half} ${y + 0.93 * half})`}>
          <path
            d={`M0 ${-half / 60}V0H${bar}V${-half / 60}`}
            fill="none"
            stroke="currentColor"
            vectorEffect="non-scaling-stroke"
          />
          <text
            x={bar / 2}
            y={-half / 50}
            fontSize={half / 22}
            textAnchor="middle"
            fill="currentColor"
          >
            {digits(bar)} mm
          </text>
        </g>
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, px: 2, pb: 1 }}>
        <Typography variant="body2" id="cut-place" sx={{ whiteSpace: "nowrap" }}>
          {through === "axis" ? "Turned from x" : "At height z"}
        </Typography>
        {through === "axis" ? (
          <Slider
            aria-labelledby="cut-place"
            min={0}
            max={180}
            step={1}
            value={angle}
            onChange={(_, next) => setAngle(next as number)}
          />
        ) : (
          <Slider
            aria-labelledby="cut-place"
            min={center.z - radius}
            max={center.z + radius}
            step={radius / 200}
            value={height}
            onChange={(_, next) => setHeight(next as number)}
          />
        )}
        <Typography
          variant="body2"
          sx={{ minWidth: 72, textAlign: "right", fontVariantNumeric: "tabular-nums" }}
        >
          {through === "axis" ? `${angle}°` : `${digits(height, 4)} mm`}
        </Typography>
        <Button variant="text" onClick={() => setView({ x: 0, y: 0, zoom: 1 })}>
          Whole
        </Button>
      </Box>
    </Box>
  );
}

function Lines({ d, colour }: { d: string; colour: string }) {
  return (
    <path d={d} fill="none" stroke={colour} strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
  );
}

function lines(segments: Segment[]): string {
  return segments
    .map(([a, b, c, d]) => `M${a.toFixed(4)} ${(-b).toFixed(4)}L${c.toFixed(4)} ${(-d).toFixed(4)}`)
    .join("");
}

/** A round length near to one. */
function nice(length: number): number {
  const ten = 10 ** Math.floor(Math.log10(length));
  return [5, 2, 1].map((k) => k * ten).find((k) => k <= length) ?? ten;
}

import Box from "@mui/material/Box";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useRef, useState } from "react";
import { useLook } from "../../look/Look";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { useUnit, useWoundTold } from "../PartContext";

const WIDTH = 316;
const HEIGHT = 168;
const MARGIN = 16;
const VIEWS = { plan: [0, 1], front: [0, 2], side: [1, 2] } as const;
const AXES = ["x", "y", "z"];

type View = keyof typeof VIEWS;

/** The points of a path from above, from the front or from the side; dragged, or moved by arrow keys. */
export function PlanView({ place, closed }: { place: string; closed: boolean }) {
  const points = (useRecipe((state) => at(state.recipe, place)) ?? []) as (number | string)[][];
  const set = useRecipe((state) => state.set);
  const part = useWoundTold();
  const unit = useUnit();
  const { colours } = useLook();
  const [view, setView] = useState<View>("plan");
  const frozen = useRef<Frame | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const [a, b] = VIEWS[view];
  const numbers = points.map((p) => p.map((value) => Number(value) || 0));
  const strip = part.report?.strip;
  const line: number[][] =
    place === "/path/points" && strip
      ? strip.x.map((x, i) => [x, strip.y[i]!, strip.z[i]!].map((c) => c / MM[unit]))
      : closed
        ? [...numbers, ...numbers.slice(0, 1)]
        : numbers;
  const frame = frozen.current ?? frameOf([...numbers, ...line], a, b);
  const x = (value: number) => WIDTH / 2 + (value - frame.x) * frame.scale;
  const y = (value: number) => HEIGHT / 2 - (value - frame.y) * frame.scale;
  const move = (index: number, u: number, v: number) => {
    const next = [...numbers[index]!];
    const digits = Math.max(0, Math.ceil(Math.log10(frame.scale)) + 1);
    next[a] = Number(u.toFixed(digits));
    next[b] = Number(v.toFixed(digits));
    set(`${place}/${index}`, next);
  };
  return (
    <Box>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={view}
        aria-label="Seen from"
        onChange={(_, next: View | null) => next && setView(next)}
        sx={{ mb: 0.5, "& button": { py: 0, textTransform: "none", color: "text.primary" } }}
      >
        {(Object.keys(VIEWS) as View[]).map((name) => (
          <ToggleButton key={name} value={name}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="group"
        aria-label={`Points, ${view}`}
        style={{
          background: colours.paper,
          border: `1px solid ${colours.line}`,
          touchAction: "none",
        }}
      >
        <path
          d={line
            .map((p, i) => `${i ? "L" : "M"}${x(p[a]!).toFixed(1)} ${y(p[b]!).toFixed(1)}`)
            .join("")}
          fill="none"
          stroke={colours.copper}
          strokeWidth="1.5"
        />
        <text x="6" y={HEIGHT - 6} fontSize="11" fill={colours.pencil}>
          {AXES[a]} → {AXES[b]} ↑
        </text>
        {numbers.map((p, index) => (
          <g key={index}>
            <circle
              cx={x(p[a]!)}
              cy={y(p[b]!)}
              r={dragged === index ? 8 : 6}
              fill={colours.sheet}
              stroke={colours.ink}
              strokeWidth="1.5"
              role="slider"
              tabIndex={0}
              aria-label={`Point ${index + 1}`}
              aria-valuenow={p[a]}
              aria-valuetext={`${AXES[a]} ${p[a]}, ${AXES[b]} ${p[b]} ${unit}`}
              style={{ cursor: "grab" }}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                frozen.current = frame;
                setDragged(index);
              }}
              onPointerMove={(event) => {
                if (dragged !== index) return;
                const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
                const u = frame.x + (event.clientX - box.left - WIDTH / 2) / frame.scale;
                const v = frame.y - (event.clientY - box.top - HEIGHT / 2) / frame.scale;
                move(index, u, v);
              }}
              onPointerUp={() => {
                frozen.current = null;
                setDragged(null);
              }}
              onKeyDown={(event) => {
                const step = (event.shiftKey ? 20 : 2) / frame.scale;
                const by = {
                  ArrowLeft: [-step, 0],
                  ArrowRight: [step, 0],
                  ArrowUp: [0, step],
                  ArrowDown: [0, -step],
                }[event.key];
                if (!by) return;
                event.preventDefault();
                move(index, p[a]! + by[0]!, p[b]! + by[1]!);
              }}
            />
            <text
              x={x(p[a]!) + 8}
              y={y(p[b]!) - 6}
              fontSize="10.5"
              fill={colours.ink}
              pointerEvents="none"
            >
              {index + 1}
            </text>
          </g>
        ))}
      </svg>
    </Box>
  );
}

interface Frame {
  x: number;
  y: number;
  scale: number;
}

function frameOf(points: number[][], a: number, b: number): Frame {
  const us = points.map((p) => p[a]!);
  const vs = points.map((p) => p[b]!);
  const [left, right, low, high] = [
    Math.min(...us),
    Math.max(...us),
    Math.min(...vs),
    Math.max(...vs),
  ];
  const scale = Math.min(
    (WIDTH - 2 * MARGIN) / Math.max(right - left, 1e-6),
    (HEIGHT - 2 * MARGIN) / Math.max(high - low, 1e-6),
  );
  return { x: (left + right) / 2, y: (low + high) / 2, scale: Math.min(scale, 1e4) };
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useRef } from "react";
import type { Recipe, Report } from "../api/client";
import { useLook } from "../look/Look";
import { MM, digits, lengthText, type LengthUnit } from "../look/numbers";
import { useRecipe } from "../state/bench";
import { at, put } from "../state/pointer";
import { focusSoon } from "./focus";
import { usePartContext } from "./PartContext";
import { ValueField } from "./ValueField";
import { capital } from "../look/words";

type Side = "turns" | "pitch" | "height";
type Coil = Extract<Recipe["path"], { kind: "coil" }>;

const SIDES: Side[] = ["turns", "pitch", "height"];
const WIDTH = 300;
const BASE = 232;
const TOP = 16;
const FLOOR = 96;

/**
 * The unrolled coil: circumference × turns along the base, height up the side, wire along the slope. Two of
 * turns, pitch and height are held and the third follows; its corner is dragged, or moved by arrow keys.
 */
export function PitchTriangle({ place }: { place: string }) {
  const { recipe, part, unit } = usePartContext();
  const { colours } = useLook();
  const change = useRecipe((state) => state.change);
  const drag = useRef<{ x: number; y: number; turns: number; height: number } | null>(null);
  const path = at(recipe, place) as Coil;
  const held = SIDES.filter((side) => path[side] != null);
  const follower = SIDES.find((side) => path[side] == null) ?? "height";
  const { now, base, height } = unrolled(part.report, path, place, unit);
  const rise = 1 - Math.exp((-7 * height) / Math.max(base, 1e-9));
  const drawn = (rise * (FLOOR - TOP) * base) / Math.max(BASE * height, 1e-9);
  const x0 = 14;
  const corner = { x: x0 + BASE, y: FLOOR - rise * (FLOOR - TOP) };
  const shownTurns = Math.min(40, Math.max(1, Math.ceil(now.turns)));

  const follow = (side: Side) =>
    change((old) => {
      const next: Coil = { ...(at(old, place) as Coil) };
      next[follower] = Number(now[follower].toPrecision(9));
      delete next[side];
      return put(old, place, next);
    });
  const move = (turns: number, rising: number) =>
    change((old) => {
      const next: Coil = { ...(at(old, place) as Coil) };
      const round = (value: number) => Number(Math.max(value, 0).toPrecision(4));
      if (next.turns != null) next.turns = round(Math.max(turns, 0.1));
      if (next.height != null) next.height = round(rising);
      if (next.pitch != null) next.pitch = round(rising / Math.max(turns, 0.1));
      return put(old, place, next);
    });

  return (
    <Box>
      <svg
        width={WIDTH}
        height={FLOOR + 22}
        viewBox={`0 0 ${WIDTH} ${FLOOR + 22}`}
        aria-label="Pitch triangle"
        role="group"
        style={{ maxWidth: "100%" }}
      >
        <path
          d={`M${x0} ${FLOOR}H${x0 + BASE}V${corner.y}Z`}
          fill={colours.copper}
          fillOpacity="0.1"
          stroke={colours.line}
        />
        {Array.from({ length: shownTurns - 1 }, (_, i) => {
          const x = x0 + (BASE * (i + 1)) / Math.max(now.turns, 1);
          if (x > x0 + BASE) return null;
          const y = FLOOR - ((x - x0) / BASE) * (FLOOR - corner.y);
          return (
            <path key={i} d={`M${x} ${FLOOR}V${y}`} stroke={colours.line} strokeDasharray="2 3" />
          );
        })}
        <path d={`M${x0} ${FLOOR}H${x0 + BASE}`} stroke={colours.ink} strokeWidth="1.5" />
        <path d={`M${x0 + BASE} ${FLOOR}V${corner.y}`} stroke={colours.ink} strokeWidth="1.5" />
        <path
          d={`M${x0} ${FLOOR}L${corner.x} ${corner.y}`}
          stroke={colours.copper}
          strokeWidth="3.5"
          strokeLinecap="round"
        />
        <text
          x={x0 + BASE / 2}
          y={FLOOR + 16}
          textAnchor="middle"
          fontSize="11.5"
          fill={colours.pencil}
        >
          {digits(now.turns, 4)} turns, {lengthText(base, unit)} around
        </text>
        <text
          x={x0 + BASE + 8}
          y={(FLOOR + corner.y) / 2 + 12}
          fontSize="11.5"
          fill={colours.pencil}
        >
          {digits(now.height, 4)} {unit}
        </text>
        <text x={x0} y={TOP - 2} fontSize="11.5" fill={colours.pencil}>
          wire {lengthText(Math.hypot(base, height), unit)}, lead angle{" "}
          {digits((Math.atan2(height, base) * 180) / Math.PI, 3)}°
          {height > 0 && `, height drawn × ${digits(drawn, 2)}`}
        </text>
        <circle
          cx={corner.x}
          cy={corner.y}
          r="8"
          fill={colours.sheet}
          stroke={colours.copper}
          strokeWidth="3"
          tabIndex={0}
          role="slider"
          aria-label="Corner of the pitch triangle: up and down changes the height, left and right the turns"
          aria-valuenow={Number(now.height.toPrecision(5))}
          aria-valuetext={`${digits(now.turns, 4)} turns, height ${digits(now.height, 4)} ${unit}`}
          style={{ cursor: "move", touchAction: "none" }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = {
              x: event.clientX,
              y: event.clientY,
              turns: now.turns,
              height: now.height,
            };
          }}
          onPointerMove={(event) => {
            const from = drag.current;
            if (!from) return;
            const turns = from.turns * (1 + (event.clientX - from.x) / BASE);
            const scale = Math.max(from.height, now.pitch * 0.25, 0.5);
            move(turns, from.height + ((from.y - event.clientY) / (FLOOR - TOP)) * scale);
          }}
          onPointerUp={() => (drag.current = null)}
          onKeyDown={(event) => {
            const steps: Record<string, [number, number]> = {
              ArrowUp: [0, 0.01],
              ArrowDown: [0, -0.01],
              ArrowRight: [0.25, 0],
              ArrowLeft: [-0.25, 0],
            };
            const step = steps[event.key];
            if (!step) return;
            event.preventDefault();
            const [more, higher] = step;
            const stretched =
              held.includes("pitch") && more ? now.pitch * (now.turns + more) : now.height;
            move(now.turns + more, stretched * (1 + higher));
          }}
        />
      </svg>
      <Stack spacing={1}>
        {SIDES.map((side) => (
          <Stack key={side} direction="row" spacing={1} sx={{ alignItems: "flex-start" }}>
            {side === follower ? (
              <FollowingSide side={side} value={now[side]} unit={side === "turns" ? "" : unit} />
            ) : (
              <>
                <ValueField
                  label={`${capital(side)}, held`}
                  place={`${place}/${side}`}
                  unit={side === "turns" ? "" : unit}
                />
                <Button
                  variant="text"
                  onClick={() => {
                    follow(side);
                    focusSoon(`[data-place="${place}/${follower}"]`);
                  }}
                  sx={{ flex: "none", width: 96 }}
                  aria-label={`let follow: ${side}`}
                >
                  let follow
                </Button>
              </>
            )}
          </Stack>
        ))}
      </Stack>
    </Box>
  );
}

interface Unrolled {
  /** In the recipe's unit. */
  now: Record<Side, number>;
  /** Of the triangle, in mm. */
  base: number;
  height: number;
}

/** The three sides as they are: the part's own figures where they speak of this coil alone. */
function unrolled(report: Report | null, path: Coil, place: string, unit: LengthUnit): Unrolled {
  const figures = report?.figures;
  const alone = place === "/path" && !path.legs && !path.span;
  if (alone || !report) {
    const length = figures?.path_length ?? 0;
    const height = figures?.height ?? 0;
    const typed = (mm: number) => mm / MM[unit];
    return {
      now: {
        turns: figures?.turns ?? 0,
        pitch: typed(figures?.pitch ?? 0),
        height: typed(height),
      },
      base: Math.sqrt(Math.max(0, length * length - height * height)),
      height,
    };
  }
  const value = (name: string) => report.values[`${place}/${name}`];
  const turns = value("turns") ?? (value("height") ?? 0) / (value("pitch") || 1);
  const height = value("height") ?? turns * (value("pitch") ?? 0);
  const around = Math.PI * (value("diameter") ?? 20) * turns * MM[unit];
  return {
    now: { turns, pitch: height / Math.max(turns, 1e-9), height },
    base: around,
    height: height * MM[unit],
  };
}

function FollowingSide({ side, value, unit }: { side: Side; value: number; unit: string }) {
  return (
    <Typography
      variant="body2"
      role="status"
      sx={{ width: "100%", display: "flex", justifyContent: "space-between", py: 0.6, px: 1.5 }}
    >
      <span>{side} follows</span>
      <strong>
        {digits(value, 6)} {unit}
      </strong>
    </Typography>
  );
}

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import useResizeObserver from "../useResizeObserver";
import { useRef, useState } from "react";
import type { Check, Report } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits, lengthText } from "../../look/numbers";
import { useDesk } from "../../state/bench";
import { useUnit, useWoundTold } from "../PartContext";
import { Axis } from "./Axis";
import { LEFT, Lane, type LaneData } from "./Lane";
import { keepLaneHeight, keptLaneHeight } from "./laneHeight";
import { HeightHandle } from "./HeightHandle";

const RIGHT = 14;
const GAP = 5;
const AXIS = 22;

const says = ({ values, idle }: LaneData) =>
  values.some((value) => value !== null && Math.abs(value - (idle ?? Infinity)) > 1e-9);

const MORE = [
  { name: "Width", unit: "×", key: "width" },
  { name: "Depth", unit: "×", key: "depth" },
  { name: "Tilt", unit: "°", key: "tilt" },
  { name: "Shape", unit: "", key: "shape" },
] as const;

const LENGTHS = [
  ["radius", "radius"],
  ["pitch", "pitch"],
  ["bend", "bend radius"],
  ["gap", "gap"],
] as const;

/** The wire laid out straight: a lane for each schedule, one for the gap, one for where checks speak. */
export function WireStrip() {
  const report = useWoundTold().report;
  const frame = useRef<HTMLDivElement>(null);
  const width = useResizeObserver(frame);
  return (
    <Box
      ref={frame}
      component="section"
      aria-label="Wire strip"
      sx={{ position: "relative", minWidth: 0, minHeight: 96 }}
    >
      {report && <Strip report={report} width={width} />}
    </Box>
  );
}

function Strip({ report, width }: { report: Report; width: number }) {
  const unit = useUnit();
  const { colours } = useLook();
  const cursor = useDesk((state) => state.cursor);
  const setCursor = useDesk((state) => state.setCursor);
  const [lane, setLane] = useState(keptLaneHeight);
  const { strip } = report;
  const length = strip.s[strip.s.length - 1] ?? 1;
  const inner = Math.max(width - LEFT - RIGHT, 50);
  const x = (s: number) => LEFT + (s / length) * inner;
  const edited = useDesk((state) => state.step) === "along";
  const all: LaneData[] = [
    { name: "Twist", unit: "°", values: strip.twist, key: "twist", idle: 0 },
    { name: "Size", unit: "×", values: strip.size, key: "size", idle: 1 },
    ...MORE.flatMap(({ name, unit: its, key }) => {
      const values = strip[key];
      return values ? [{ name, unit: its, values, key }] : [];
    }),
    { name: "Gap", unit: "mm", values: strip.gap },
    ...(strip.stress ? [{ name: "Stress", unit: "MPa", values: strip.stress }] : []),
  ];
  const lanes = all.filter((lane) => (lane.key && edited) || says(lane));
  const top = 6;
  const placesTop = top + lanes.length * (lane + GAP);
  const bottom = placesTop + 16;
  const here = cursor === null ? null : Math.min(Math.max(cursor, 0), length);
  const move = (clientX: number, target: Element) =>
    setCursor(
      Math.min(
        length,
        Math.max(0, ((clientX - target.getBoundingClientRect().left - LEFT) / inner) * length),
      ),
    );

  return (
    <>
      {lanes.length > 0 && (
        <HeightHandle
          height={lane}
          lanes={lanes.length}
          onChange={(height) => {
            setLane(height);
            keepLaneHeight(height);
          }}
        />
      )}
      <svg
        width={width}
        height={bottom + AXIS}
        role="slider"
        data-wire
        tabIndex={0}
        aria-label="Place along the wire"
        aria-valuemin={0}
        aria-valuemax={Number(length.toFixed(3))}
        aria-valuenow={Number((here ?? 0).toFixed(3))}
        aria-valuetext={here === null ? "no place chosen" : readout(report, here, unit)}
        style={{ display: "block", cursor: "crosshair", touchAction: "none" }}
        onPointerMove={(event) => move(event.clientX, event.currentTarget)}
        onPointerDown={(event) => move(event.clientX, event.currentTarget)}
        onKeyDown={(event) => {
          const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
          if (event.key === "Home") setCursor(0);
          else if (event.key === "End") setCursor(length);
          else if (event.key === "Escape") setCursor(null);
          else if (step !== undefined)
            setCursor(Math.min(length, Math.max(0, (here ?? 0) + (step * length) / 200)));
          else return;
          event.preventDefault();
        }}
      >
        {lanes.map((data, index) => (
          <Lane
            key={data.name}
            lane={data}
            s={strip.s}
            x={x}
            y={top + index * (lane + GAP)}
            width={inner}
            height={lane}
            turns={strip.turns}
            here={here === null ? null : indexAt(report, here)}
          />
        ))}
        <text x={LEFT - 8} y={placesTop + 11} textAnchor="end" fontSize="12" fill={colours.pencil}>
          Checks
        </text>
        <rect
          x={LEFT}
          y={placesTop}
          width={inner}
          height="14"
          fill={colours.sheet}
          stroke={colours.line}
        />
        {report.checks.flatMap((check) =>
          check.verdict === "clear" ? [] : places(check, x, placesTop),
        )}
        {strip.turns.map((s) => (
          <path key={s} d={`M${x(s)} ${bottom - 3}v6`} stroke={colours.pencil} strokeWidth="0.8" />
        ))}
        <Axis length={length} x={x} y={bottom} />
        {here !== null && (
          <g pointerEvents="none">
            <path d={`M${x(here)} ${top}V${bottom}`} stroke={colours.ink} strokeWidth="1.2" />
            <circle cx={x(here)} cy={bottom} r="3.5" fill={colours.ink} />
          </g>
        )}
      </svg>
      <Typography
        variant="caption"
        sx={{
          position: "absolute",
          left: 0,
          width: here === null ? LEFT - 8 : "auto",
          bottom: 0,
          color: "text.secondary",
          bgcolor: "background.default",
          px: 1,
          whiteSpace: "nowrap",
        }}
      >
        {here === null ? "point to read" : readout(report, here, unit)}
      </Typography>
    </>
  );

  function places(check: Check, at: (s: number) => number, y: number) {
    const colour = check.verdict === "stop" ? colours.stop : colours.watch;
    const inset = check.verdict === "stop" ? 0 : 4;
    return check.where.map(([from, to]) => (
      <rect
        key={`${check.id}${from}`}
        x={at(from ?? 0)}
        y={y + inset}
        width={Math.max(3, at(to ?? 0) - at(from ?? 0))}
        height={14 - 2 * inset}
        fill={colour}
        fillOpacity="0.85"
      >
        <title>{`${check.title}: ${check.verdict}`}</title>
      </rect>
    ));
  }
}

function indexAt(report: Report, s: number): number {
  const places = report.strip.s;
  return Math.round((s / (places[places.length - 1] ?? 1)) * (places.length - 1));
}

function readout(report: Report, s: number, unit: Parameters<typeof lengthText>[1]): string {
  const { strip } = report;
  const i = indexAt(report, s);
  const told = [`at ${lengthText(s, unit)}`];
  for (const [name, word] of LENGTHS) {
    const value = strip[name]?.[i];
    if (value != null) told.push(`${word} ${lengthText(value, unit)}`);
  }
  if (strip.twist.some((value) => value !== 0)) told.push(`twist ${digits(strip.twist[i]!, 4)}°`);
  if (strip.size.some((value) => value !== 1)) told.push(`size ${digits(strip.size[i]!, 4)} ×`);
  return told.join(", ");
}

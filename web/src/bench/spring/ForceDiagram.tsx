import Box from "@mui/material/Box";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";
import { useDesk, useRecipe } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { forceAt } from "./curve";
import { TOLD, effortText, placeScale, placeText, toldBy } from "./words";

const WIDE = 328;
const HIGH = 208;
const LEFT = 40;
const RIGHT = 8;
const TOP = 14;
const BOTTOM = 34;

/** Force over length, or torque over angle, from free to the last place drawn: the limits of stress, the least length, and the working points, which
 * are dragged along it. */
export function ForceDiagram({ spring }: { spring: Spring }) {
  const { recipe, unit } = usePartContext();
  const { colours } = useLook();
  const set = useRecipe((state) => state.set);
  const pressed = useDesk((state) => state.pressed);
  const svg = useRef<SVGSVGElement>(null);
  const { first: free, last, least_length: least, curve } = spring;
  const [low, high] = [Math.min(free, last), Math.max(free, last)];
  const peak = curve[curve.length - 1]![1]!;
  const most = Math.max(peak, ...spring.loads.map((load) => load.effort)) * 1.06;
  const x = (length: number) =>
    LEFT + ((length - free) / (last - free || 1)) * (WIDE - LEFT - RIGHT);
  const y = (force: number) => HIGH - BOTTOM - (force / (most || 1)) * (HIGH - TOP - BOTTOM);
  const scale = placeScale(spring, unit);
  const keeps = least !== null && least < free;

  const move = (index: number, length: number) => {
    const held = Math.min(Math.max(length, low), high);
    const point = recipe.spring?.points?.[index];
    if (!point) return;
    const told = toldBy(spring.kind, point);
    const place = `/spring/points/${index}/${told}`;
    const value = told === TOLD[spring.kind][0] ? held / scale : forceAt(curve, held);
    set(place, Number(value.toPrecision(4)));
  };
  const drag = (index: number) => (event: PointerEvent<SVGCircleElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !svg.current) return;
    const box = svg.current.getBoundingClientRect();
    const at = ((event.clientX - box.left) / box.width) * WIDE;
    move(index, free + ((at - LEFT) / (WIDE - LEFT - RIGHT)) * (last - free));
  };
  const step = (index: number, length: number) => (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    move(index, length + way * Math.sign(last - free) * (event.shiftKey ? 1 : 0.1) * scale);
  };
  const line = curve.map(([l, f]) => `${x(l!).toFixed(2)},${y(f!).toFixed(2)}`).join(" ");
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="group"
      aria-label={spring.units[0] === "°" ? "Torque over angle" : "Force over length"}
      sx={{ width: "100%", display: "block", fontSize: 10.5, fontFamily: "fontFamily" }}
    >
      <g stroke={colours.line} fill="none">
        <path d={`M${LEFT},${TOP} V${HIGH - BOTTOM} H${WIDE - RIGHT}`} stroke={colours.pencil} />
        {keeps && (
          <path
            d={`M${x(least)},${TOP} V${HIGH - BOTTOM}`}
            stroke={colours.watch}
            strokeDasharray="4 3"
          />
        )}
      </g>
      {spring.marks
        .filter((mark) => mark.effort < most)
        .map((mark, index, marks) => (
          <g key={mark.words}>
            <path
              d={`M${LEFT},${y(mark.effort)} H${WIDE - RIGHT}`}
              stroke={colours[mark.verdict]}
              strokeDasharray="6 3"
            />
            <text
              x={LEFT + 4}
              y={y(mark.effort) + (index + 1 < marks.length ? 11 : -3)}
              fill={colours[mark.verdict]}
            >
              {mark.words}
            </text>
          </g>
        ))}
      <polyline points={line} fill="none" stroke={colours.copper} strokeWidth={2} />
      {pressed !== null && (
        <path
          d={`M${x(Math.min(Math.max(pressed, low), high))},${TOP} V${HIGH - BOTTOM}`}
          stroke={colours.ink}
          strokeWidth={1}
        />
      )}
      <g fill={colours.pencil}>
        <text x={LEFT - 4} y={y(0) + 3} textAnchor="end">
          0
        </text>
        <text x={LEFT - 4} y={y(peak) + 3} textAnchor="end">
          {digits(peak, 3)}
        </text>
        <text x={4} y={TOP - 3}>
          {spring.units[1]}
        </text>
        <text x={LEFT} y={HIGH - BOTTOM + 13}>
          {placeText(spring, free, unit)}, free
        </text>
        <text x={WIDE - RIGHT} y={HIGH - BOTTOM + 13} textAnchor="end">
          {placeText(spring, last, unit)}
          {spring.solid_length === null ? "" : ", block"}
        </text>
        {keeps && (
          <text x={x(least)} y={HIGH - BOTTOM + 26} textAnchor="middle" fill={colours.watch}>
            least {placeText(spring, least, unit)}
          </text>
        )}
      </g>
      {spring.loads.map((load, index) => (
        <circle
          key={index}
          cx={x(Math.min(Math.max(load.place, low), high))}
          cy={y(load.effort)}
          r={6}
          fill={colours.sheet}
          stroke={load.utilisation > 1 ? colours.stop : colours.ink}
          strokeWidth={2}
          tabIndex={0}
          role="slider"
          aria-label={`Working point ${index + 1}`}
          aria-valuemin={low}
          aria-valuemax={high}
          aria-valuenow={load.place}
          aria-valuetext={`${placeText(spring, load.place, unit)}, ${effortText(spring, load.effort)}`}
          style={{ cursor: "ew-resize", touchAction: "none" }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={drag(index)}
          onKeyDown={step(index, load.place)}
        />
      ))}
    </Box>
  );
}

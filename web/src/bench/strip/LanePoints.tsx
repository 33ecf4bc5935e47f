import { useRef, useState } from "react";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";

export type LaneKey = "twist" | "size" | "width" | "depth" | "tilt" | "shape";

interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
  low: number;
  high: number;
  flat: boolean;
}

interface Props {
  name: LaneKey;
  unit: string;
  frame: Frame;
  /** Where whole turns end, as shares of the wire; points snap to them. */
  turns: number[];
}

type Point = [number | string, number | string];

const SNAP = 5;

/**
 * The points of a schedule in its lane: dragged, moved by arrow keys, removed by Delete, added by a double
 * click, or by + halfway to the next. They snap to whole turns; Alt lets them go.
 */
export function LanePoints({ name, unit, frame, turns }: Props) {
  const place = `/along/${name}/points`;
  const points = useRecipe((state) => at(state.recipe, place)) as Point[] | undefined;
  const on = useRecipe((state) => at(state.recipe, `/along/${name}/on`)) !== false;
  const set = useRecipe((state) => state.set);
  const { colours } = useLook();
  const held = useRef<{ index: number; frame: Frame } | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  if (!points || !on) return null;
  const now = held.current?.frame ?? frame;
  const px = (share: number) => now.x + share * now.width;
  const py = (value: number) =>
    now.flat
      ? now.y + now.height / 2
      : now.y + now.height - 3 - ((value - now.low) / (now.high - now.low)) * (now.height - 6);
  const valueAt = (y: number) =>
    now.low + ((now.y + now.height - 3 - y) / (now.height - 6)) * (now.high - now.low);
  const snapped = (share: number) => {
    const near = turns.find((turn) => Math.abs(turn - share) * now.width < SNAP);
    return near ?? share;
  };
  const step = Math.max((now.high - now.low) / 50, unit === "°" ? 1 : 0.01);
  const put = (index: number, share: number, value: number) => {
    const low = index > 0 ? Number(points[index - 1]![0]) + 1e-3 : 0;
    const high = index < points.length - 1 ? Number(points[index + 1]![0]) - 1e-3 : 1;
    const kept = Math.min(Math.max(share, low), high);
    const digit = Math.max(0, Math.ceil(-Math.log10(step)) + 1);
    set(`${place}/${index}`, [Number(kept.toFixed(5)), Number(value.toFixed(digit))]);
  };
  const add = (clientX: number, clientY: number, box: DOMRect) => {
    const share = snapped(Math.min(1, Math.max(0, (clientX - box.left - now.x) / now.width)));
    const value = Number(valueAt(clientY - box.top).toPrecision(4));
    const index = points.findIndex((p) => Number(p[0]) > share);
    const cut = index < 0 ? points.length : index;
    if (points.some((p) => Math.abs(Number(p[0]) - share) < 1e-3)) return;
    set(place, [...points.slice(0, cut), [Number(share.toFixed(5)), value], ...points.slice(cut)]);
  };
  const between = (index: number) => {
    const here = points[index]!;
    const last = Number(here[0]) >= 1;
    const other = points[last ? index - 1 : index + 1] ?? [last ? 0 : 1, here[1]];
    const middle = here.map((value, k) => (Number(value) + Number(other[k])) / 2);
    const cut = last ? index : index + 1;
    set(place, [...points.slice(0, cut), middle, ...points.slice(cut)]);
  };
  return (
    <g>
      <rect
        x={frame.x}
        y={frame.y}
        width={frame.width}
        height={frame.height}
        fill="transparent"
        data-lane={name}
        onDoubleClick={(event) =>
          add(
            event.clientX,
            event.clientY,
            event.currentTarget.ownerSVGElement!.getBoundingClientRect(),
          )
        }
      >
        <title>Double click adds a point; + adds one after the point that has the focus</title>
      </rect>
      {points.map(([share, value], index) => {
        if (typeof share !== "number" || typeof value !== "number") return null;
        return (
          <circle
            key={index}
            cx={px(share)}
            cy={py(value)}
            r={dragged === index ? 6 : 4.5}
            fill={colours.sheet}
            stroke={colours.ink}
            strokeWidth="1.5"
            role="slider"
            tabIndex={0}
            aria-label={`${name} point ${index + 1}`}
            aria-valuenow={value}
            aria-valuetext={`${digits(value)} ${unit} at ${digits(100 * share, 3)} %`}
            data-lane-point={`${name}-${index}`}
            style={{ cursor: "move" }}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              held.current = { index, frame };
              setDragged(index);
            }}
            onPointerMove={(event) => {
              if (held.current?.index !== index) return;
              event.stopPropagation();
              const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
              const raw = (event.clientX - box.left - now.x) / now.width;
              put(index, event.altKey ? raw : snapped(raw), valueAt(event.clientY - box.top));
            }}
            onPointerUp={() => {
              held.current = null;
              setDragged(null);
            }}
            onKeyDown={(event) => {
              const many = event.shiftKey ? 10 : 1;
              if (event.key === "ArrowUp") put(index, share, value + many * step);
              else if (event.key === "ArrowDown") put(index, share, value - many * step);
              else if (event.key === "ArrowLeft") put(index, share - many * 0.005, value);
              else if (event.key === "ArrowRight") put(index, share + many * 0.005, value);
              else if (event.key === "Delete" && points.length > 1)
                set(
                  place,
                  points.filter((_, i) => i !== index),
                );
              else if (event.key === "+") between(index);
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          />
        );
      })}
    </g>
  );
}

import { useLook } from "../../look/Look";
import { digits, shown } from "../../look/numbers";
import { useUnit } from "../PartContext";
import { LanePoints, type LaneKey } from "./LanePoints";

export const LEFT = 112;

export interface LaneData {
  name: string;
  unit: string;
  values: (number | null)[];
  /** The schedule that the lane shows. */
  key?: LaneKey;
  /** The value that says nothing. */
  idle?: number;
}

/** What changes along the wire, drawn over its length; dragged where it is a schedule. */
export function Lane(props: {
  lane: LaneData;
  s: number[];
  x: (s: number) => number;
  y: number;
  width: number;
  height: number;
  turns: number[];
  /** Which of its values the cursor is at. */
  here: number | null;
}) {
  const { lane, s, x, y, width, height, turns, here } = props;
  const unit = useUnit();
  const { colours } = useLook();
  const known = lane.values.filter((v): v is number => v !== null);
  const low = Math.min(...known, lane.name === "Gap" ? 0 : Infinity);
  const high = Math.max(...known, lane.name === "Gap" ? 0 : -Infinity);
  const flat = high - low < 1e-9 * Math.max(Math.abs(high), 1);
  const at = (value: number) =>
    flat ? y + height / 2 : y + height - 3 - ((value - low) / (high - low)) * (height - 6);
  let path = "";
  let pen = false;
  lane.values.forEach((value, i) => {
    if (value === null) {
      pen = false;
      return;
    }
    path += `${pen ? "L" : "M"}${x(s[i]!).toFixed(1)} ${at(value).toFixed(1)}`;
    pen = true;
  });
  const text = (value: number) => {
    const figure = shown(value, lane.unit, unit);
    return `${digitsOf(figure.number)} ${figure.unit}`;
  };
  const [least, most] = known.length
    ? [Math.min(...known), Math.max(...known)].map(text)
    : ["nothing near", "nothing near"];
  const range = least === most ? least : `${least!.split(" ")[0]} … ${most}`;
  return (
    <g>
      <rect
        x={LEFT}
        y={y}
        width={width}
        height={height}
        fill={colours.sheet}
        stroke={colours.line}
      />
      {lane.name === "Gap" && !flat && low < 0 && (
        <path d={`M${LEFT} ${at(0)}H${LEFT + width}`} stroke={colours.stop} strokeDasharray="4 3" />
      )}
      <path d={path} fill="none" stroke={colours.copper} strokeWidth="2" pointerEvents="none" />
      {lane.key && (
        <LanePoints
          name={lane.key}
          unit={lane.unit}
          frame={{ x: LEFT, y, width, height, low, high: flat ? low + 1 : high, flat }}
          turns={turns.map((at) => at / (s[s.length - 1] || 1))}
        />
      )}
      <text x={LEFT - 8} y={y + 13} textAnchor="end" fontSize="12" fill={colours.ink}>
        {lane.name}
      </text>
      <text
        x={LEFT - 8}
        y={y + 27}
        textAnchor="end"
        fontSize="10.5"
        fontWeight={here === null ? 400 : 700}
        fill={here === null ? colours.pencil : colours.ink}
      >
        {here === null ? range : lane.values[here] == null ? "–" : text(lane.values[here])}
      </text>
    </g>
  );
}

function digitsOf(number: string): string {
  return number.length > 6 ? digits(Number(number.replace("−", "-")), 4) : number;
}

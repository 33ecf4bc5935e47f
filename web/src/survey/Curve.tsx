import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Found } from "../api/client";
import { marks, scale } from "../look/axes";
import { useLook } from "../look/Look";
import { digits, type LengthUnit } from "../look/numbers";
import type { VerdictWord } from "../look/Verdict";
import { inUnit, unitOf, type ShownColumn } from "./found";
import { CHART } from "./pointButton";
import { PointMark } from "./PointMark";

const WIDE = 640;
const HIGH = 700;
const LEFT = 66;
const RIGHT = 16;
const TOP = 30;
const BOTTOM = 44;

export interface ChartProps {
  found: Found;
  column: ShownColumn;
  unit: LengthUnit;
  picked: number | null;
  onPick: (point: number) => void;
}

/** One input along the base, a figure up the side; each point wears its verdict. */
export function Curve({ found, column, unit, picked, onPick }: ChartProps) {
  const { colours } = useLook();
  const [input] = found.inputs;
  const across = found.steps[0]!;
  const values = inUnit(column, unit);
  const numbers = values.filter((value) => value !== null);
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  const up = marks(low, high);
  const along = marks(across[0]!, across.at(-1)!, 8);
  const x = scale(along, LEFT, WIDE - RIGHT);
  const y = scale(up, HIGH - BOTTOM, TOP);
  const runs = across
    .map((value, k) => (values[k] == null ? "" : `${x(value)},${y(values[k]!)}`))
    .join(" ")
    .split(/ {2,}/);
  return (
    <>
      <Typography variant="h2">
        {column.title} over {input!.words}
      </Typography>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="xMidYMin"
        role="group"
        aria-label={`${column.title} over ${input!.words}`}
        sx={CHART}
      >
        <g stroke={colours.line}>
          {up.map((value) => (
            <path key={value} d={`M${LEFT},${y(value)} H${WIDE - RIGHT}`} />
          ))}
          {along.map((value) => (
            <path key={value} d={`M${x(value)},${TOP} V${HIGH - BOTTOM}`} />
          ))}
        </g>
        <g fill={colours.pencil} style={{ fontVariantNumeric: "tabular-nums" }}>
          {up.map((value) => (
            <text key={value} x={LEFT - 7} y={y(value) + 4} textAnchor="end">
              {digits(value, 6)}
            </text>
          ))}
          {along.map((value) => (
            <text key={value} x={x(value)} y={HIGH - BOTTOM + 17} textAnchor="middle">
              {digits(value, 6)}
            </text>
          ))}
          <text x={4} y={14}>
            {column.title}
            {unitOf(column, unit) && `, ${unitOf(column, unit)}`}
          </text>
          <text x={WIDE - RIGHT} y={HIGH - 6} textAnchor="end">
            {input!.words}
            {input!.unit && `, ${input!.unit}`}
          </text>
        </g>
        {input!.value >= along[0]! && input!.value <= along.at(-1)! && (
          <g>
            <path
              d={`M${x(input!.value)},${TOP} V${HIGH - BOTTOM}`}
              stroke={colours.copper}
              strokeDasharray="4 3"
            />
            <text x={x(input!.value) + 4} y={TOP + 11} fill={colours.copper}>
              now
            </text>
          </g>
        )}
        {runs.map((run, k) => (
          <polyline
            key={k}
            points={run.trim()}
            fill="none"
            stroke={colours.ink}
            strokeWidth={1.5}
          />
        ))}
        {across.slice(0, found.verdicts.length).map((value, k) => (
          <PointMark
            key={value}
            x={x(value)}
            y={values[k] == null ? HIGH - BOTTOM : y(values[k]!)}
            verdict={found.verdicts[k] as VerdictWord}
            index={k}
            count={found.verdicts.length}
            steps={{ ArrowLeft: -1, ArrowRight: 1 }}
            picked={picked === k}
            reached={k === (picked ?? 0)}
            label={`${input!.words} ${digits(value, 6)} ${input!.unit}: ${
              values[k] == null ? "" : digits(values[k]!)
            } ${found.verdicts[k]}`}
            onPick={onPick}
          />
        ))}
      </Box>
    </>
  );
}

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useLook } from "../look/Look";
import { digits } from "../look/numbers";
import { VerdictMark, type VerdictWord } from "../look/Verdict";
import type { ChartProps } from "./Curve";
import { inUnit, unitOf } from "./found";
import { CHART, pointButton } from "./pointButton";

const LEFT = 66;
const TOP = 30;
const WIDE = 640;
const HIGH = 700;
const RIGHT = 10;
const BOTTOM = 44;

/** Two inputs, the second along the base: a cell a point, with its verdict and, where it has room, the figure. */
export function VerdictMap({ found, column, unit, picked, onPick }: ChartProps) {
  const { colours } = useLook();
  const [up, along] = found.steps as [number[], number[]];
  const [rising, going] = found.inputs;
  const values = inUnit(column, unit);
  const wide = (WIDE - LEFT - RIGHT) / along.length;
  const high = (HIGH - TOP - BOTTOM) / up.length;
  const roomy = wide > 38 && high > 24;
  const every = (count: number, size: number, least: number) =>
    Math.max(1, Math.ceil(least / size), Math.ceil(count / 24));
  return (
    <>
      <Typography variant="h2">
        {column.title} by {rising!.words} and {going!.words}
      </Typography>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="xMidYMin"
        role="group"
        aria-label={`${column.title} by ${rising!.words} and ${going!.words}`}
        sx={CHART}
      >
        {up.map((a, row) =>
          along.map((b, place) => {
            const point = row * along.length + place;
            const verdict = found.verdicts[point] as VerdictWord | undefined;
            if (!verdict) return null;
            const value = values[point];
            const label = `${rising!.words} ${digits(a, 6)}, ${going!.words} ${digits(b, 6)}: ${
              value == null ? "" : digits(value)
            } ${verdict}`;
            const colour = verdict === "unusable" ? colours.line : colours[verdict];
            return (
              <g
                key={point}
                transform={`translate(${LEFT + place * wide} ${HIGH - BOTTOM - (row + 1) * high})`}
                {...pointButton({
                  index: point,
                  count: values.length,
                  steps: {
                    ArrowLeft: -1,
                    ArrowRight: 1,
                    ArrowUp: along.length,
                    ArrowDown: -along.length,
                  },
                  picked: picked === point,
                  reached: point === (picked ?? 0),
                  label,
                  onPick,
                })}
              >
                <title>{label}</title>
                <rect
                  x={0.5}
                  y={0.5}
                  width={wide - 1}
                  height={high - 1}
                  fill={colour}
                  fillOpacity={0.16}
                  stroke={picked === point ? colours.ink : "none"}
                  strokeWidth={2.5}
                />
                <g transform={`translate(${wide / 2 - 4.5} ${roomy ? 4 : high / 2 - 4.5})`}>
                  <VerdictMark verdict={verdict} size={9} />
                </g>
                {roomy && value != null && (
                  <text
                    x={wide / 2}
                    y={high - 5}
                    textAnchor="middle"
                    fontSize={10}
                    fill={colours.ink}
                  >
                    {digits(value, 4)}
                  </text>
                )}
              </g>
            );
          }),
        )}
        <g fill={colours.pencil} style={{ fontVariantNumeric: "tabular-nums" }}>
          {up.map((value, row) =>
            row % every(up.length, high, 16) ? null : (
              <text
                key={value}
                x={LEFT - 7}
                y={HIGH - BOTTOM - (row + 0.5) * high + 4}
                textAnchor="end"
              >
                {digits(value, 4)}
              </text>
            ),
          )}
          {along.map((value, place) =>
            place % every(along.length, wide, 44) ? null : (
              <text
                key={value}
                x={LEFT + (place + 0.5) * wide}
                y={HIGH - BOTTOM + 17}
                textAnchor="middle"
              >
                {digits(value, 4)}
              </text>
            ),
          )}
          <text x={4} y={14}>
            {rising!.words}
            {rising!.unit && `, ${rising!.unit}`}
          </text>
          {roomy && (
            <text x={WIDE - RIGHT} y={14} textAnchor="end">
              in the cells: {column.title.toLowerCase()}
              {unitOf(column, unit) && `, ${unitOf(column, unit)}`}
            </text>
          )}
          <text x={WIDE - RIGHT} y={HIGH - 6} textAnchor="end">
            {going!.words}
            {going!.unit && `, ${going!.unit}`}
          </text>
        </g>
      </Box>
    </>
  );
}

import Box from "@mui/material/Box";
import { marks, scale } from "../look/axes";
import { useLook } from "../look/Look";
import { digits, MM, type LengthUnit } from "../look/numbers";

const WIDE = 560;
const HIGH = 250;
const LEFT = 52;
const RIGHT = 52;
const TOP = 24;
const BOTTOM = 36;

/** The settings of the former over the wire that it is fed: diameter at the left, pitch at the right; thin, what they spring back to. */
export function SettingsCurve({ rows, unit }: { rows: number[][]; unit: LengthUnit }) {
  const { colours } = useLook();
  const column = (k: number) => rows.map((row) => row[k]! / MM[unit]);
  const feed = column(0);
  const along = marks(0, feed.at(-1)!, 6);
  const x = scale(along, LEFT, WIDE - RIGHT);
  const side = (...columns: number[][]) => {
    const all = columns.flat();
    const [low, high] = [Math.min(...all), Math.max(...all)];
    const roomy = Math.max(high - low, 0.1 * Math.abs(high), 1e-6);
    const steps = marks(low - 0.1 * roomy, high + 0.1 * roomy, 4);
    return { steps, y: scale(steps, HIGH - BOTTOM, TOP) };
  };
  const diameter = side(column(1), column(3));
  const pitch = side(column(2), column(4));
  const line = (k: number, y: (value: number) => number) =>
    column(k)
      .map((value, n) => `${x(feed[n]!)},${y(value)}`)
      .join(" ");
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label="Diameter and pitch settings over the wire that is fed"
      sx={{ width: "100%", height: "100%", fontSize: 11, fontFamily: "fontFamily" }}
    >
      <g stroke={colours.line}>
        {along.map((value) => (
          <path key={value} d={`M${x(value)},${TOP} V${HIGH - BOTTOM}`} />
        ))}
      </g>
      <g fill={colours.pencil} style={{ fontVariantNumeric: "tabular-nums" }}>
        {along.map((value) => (
          <text key={value} x={x(value)} y={HIGH - BOTTOM + 15} textAnchor="middle">
            {digits(value)}
          </text>
        ))}
        <text x={WIDE / 2} y={HIGH - 4} textAnchor="middle">
          wire fed, {unit}
        </text>
      </g>
      <g fill={colours.copper} style={{ fontVariantNumeric: "tabular-nums" }}>
        {diameter.steps.map((value) => (
          <text key={value} x={LEFT - 6} y={diameter.y(value) + 4} textAnchor="end">
            {digits(value, 4)}
          </text>
        ))}
        <text x={4} y={12}>
          diameter setting, {unit}
        </text>
      </g>
      <g fill={colours.clear} style={{ fontVariantNumeric: "tabular-nums" }}>
        {pitch.steps.map((value) => (
          <text key={value} x={WIDE - RIGHT + 6} y={pitch.y(value) + 4}>
            {digits(value, 4)}
          </text>
        ))}
        <text x={WIDE - 4} y={12} textAnchor="end">
          pitch setting (dashed), {unit}
        </text>
      </g>
      <g fill="none">
        <polyline points={line(3, diameter.y)} stroke={colours.copper} opacity={0.45} />
        <polyline points={line(1, diameter.y)} stroke={colours.copper} strokeWidth={2} />
        <polyline
          points={line(4, pitch.y)}
          stroke={colours.clear}
          strokeDasharray="6 3"
          opacity={0.5}
        />
        <polyline
          points={line(2, pitch.y)}
          stroke={colours.clear}
          strokeDasharray="6 3"
          strokeWidth={2}
        />
      </g>
    </Box>
  );
}

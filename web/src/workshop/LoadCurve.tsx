import Box from "@mui/material/Box";
import type { LoadTest } from "../api/client";
import { marks, scale } from "../look/axes";
import { useLook } from "../look/Look";
import { digits } from "../look/numbers";

const WIDE = 330;
const HIGH = 190;
const LEFT = 44;
const RIGHT = 10;
const TOP = 18;
const BOTTOM = 34;

/** What the tester read, going filled and coming back open, on the line that was reckoned. */
export function LoadCurve({ test }: { test: LoadTest }) {
  const { colours } = useLook();
  const lengths = test.readings.map((row) => row.length);
  const along = marks(Math.min(...lengths), Math.max(...lengths), 5);
  const up = marks(0, Math.max(...test.readings.flatMap((row) => [row.going, row.reckoned])), 4);
  const x = scale(along, LEFT, WIDE - RIGHT);
  const y = scale(up, HIGH - BOTTOM, TOP);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label="Force over length, read and reckoned"
      sx={{ width: "100%", display: "block", fontSize: 10.5, fontFamily: "fontFamily" }}
    >
      <g stroke={colours.line}>
        {up.map((value) => (
          <path key={value} d={`M${LEFT},${y(value)} H${WIDE - RIGHT}`} />
        ))}
      </g>
      <g fill={colours.pencil} style={{ fontVariantNumeric: "tabular-nums" }}>
        {up.map((value) => (
          <text key={value} x={LEFT - 5} y={y(value) + 4} textAnchor="end">
            {digits(value, 4)}
          </text>
        ))}
        {along.map((value) => (
          <text key={value} x={x(value)} y={HIGH - BOTTOM + 13} textAnchor="middle">
            {digits(value, 4)}
          </text>
        ))}
        <text x={4} y={10}>
          force, N
        </text>
        <text x={WIDE - RIGHT} y={HIGH - 4} textAnchor="end">
          length, mm
        </text>
      </g>
      <polyline
        points={test.readings.map((row) => `${x(row.length)},${y(row.reckoned)}`).join(" ")}
        fill="none"
        stroke={colours.pencil}
      />
      {test.readings.map((row) => (
        <g key={row.length} stroke={colours.copper} strokeWidth={1.5}>
          <circle cx={x(row.length)} cy={y(row.back)} r={3.4} fill={colours.paper} />
          <circle cx={x(row.length)} cy={y(row.going)} r={2.6} fill={colours.copper} />
        </g>
      ))}
    </Box>
  );
}

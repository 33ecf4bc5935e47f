import Box from "@mui/material/Box";
import type { Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";

const WIDE = 328;
const HIGH = 150;
const LEFT = 46;
const RIGHT = 10;
const TOP = 14;
const BOTTOM = 30;

/** Goodman's line for the life asked for, and the stresses between the first and the last working point. */
export function LifeDiagram({ life }: { life: NonNullable<Spring["life"]> }) {
  const { colours } = useLook();
  const far = Math.max(life.breaking, life.mean) * 1.02;
  const high = Math.max(life.endurance, life.amplitude) * 1.1;
  const x = (stress: number) => LEFT + (stress / far) * (WIDE - LEFT - RIGHT);
  const y = (stress: number) => HIGH - BOTTOM - (stress / high) * (HIGH - TOP - BOTTOM);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`Life: ${digits(100 * life.utilisation, 3)} % of Goodman's line is used`}
      sx={{ width: "100%", display: "block", fontSize: 10.5, fontFamily: "fontFamily" }}
    >
      <path
        d={`M${LEFT},${TOP} V${HIGH - BOTTOM} H${WIDE - RIGHT}`}
        stroke={colours.pencil}
        fill="none"
      />
      <path
        d={`M${x(0)},${y(life.endurance)} L${x(life.breaking)},${y(0)}`}
        stroke={colours.stop}
        strokeWidth={1.5}
      />
      <path
        d={`M${x(0)},${y(0)} L${x(life.mean)},${y(life.amplitude)}`}
        stroke={colours.pencil}
        strokeDasharray="3 3"
      />
      <circle
        cx={x(life.mean)}
        cy={y(life.amplitude)}
        r={5}
        fill={colours.sheet}
        stroke={life.utilisation > 1 ? colours.stop : colours.ink}
        strokeWidth={2}
      />
      <g fill={colours.pencil}>
        <text x={LEFT - 4} y={y(life.endurance) + 3} textAnchor="end">
          {digits(life.endurance, 3)}
        </text>
        <text x={x(life.breaking)} y={HIGH - BOTTOM + 12} textAnchor="end">
          {digits(life.breaking, 4)}
        </text>
        <text x={4} y={TOP - 3}>
          amplitude, MPa
        </text>
        <text x={WIDE - RIGHT} y={HIGH - 4} textAnchor="end">
          mean of the corrected stress in {life.where}, MPa
        </text>
      </g>
    </Box>
  );
}

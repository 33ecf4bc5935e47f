import { useDrawingArea } from "@mui/x-charts/hooks";
import { useScales } from "./scales";

/** A line across a chart, at a place of the base or of the left side. */
export interface Rule {
  x?: number;
  y?: number;
  label: string;
  colour: string;
}

/** Lines across a chart, each with its name where there is room for it. */
export function Rules({ rules }: { rules: Rule[] }) {
  const { x, y } = useScales();
  const { left, top, width, height } = useDrawingArea();
  return rules.map(({ x: at, y: up, label, colour }) => {
    const place = at === undefined ? y(up!) : x(at);
    const late = at !== undefined && place > left + width / 2;
    return (
      <g key={`${at} ${up} ${label}`} fontSize={11}>
        <path
          d={at === undefined ? `M${left},${place} h${width}` : `M${place},${top} v${height}`}
          stroke={colour}
          strokeDasharray="6 3"
        />
        <text
          x={at === undefined ? left + 4 : place + (late ? -4 : 4)}
          y={at === undefined ? place - 4 : top + 11}
          textAnchor={late ? "end" : "start"}
          fill={colour}
        >
          {label}
        </text>
      </g>
    );
  });
}

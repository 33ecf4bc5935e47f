import { useLook } from "../../look/Look";
import { MM, digits } from "../../look/numbers";
import { useUnit } from "../PartContext";

/** The length of the wire, at round values. */
export function Axis({ length, x, y }: { length: number; x: (s: number) => number; y: number }) {
  const unit = useUnit();
  const { colours } = useLook();
  const scale = MM[unit];
  const rough = length / scale / 6;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = power * ([1, 2, 5, 10].find((m) => m * power >= rough) ?? 10);
  const ticks = Array.from({ length: Math.floor(length / scale / step) + 1 }, (_, i) => i * step);
  return (
    <g fontSize="11" fill={colours.pencil}>
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick * scale)} ${y}v4`} stroke={colours.pencil} />
          <text x={x(tick * scale)} y={y + 15} textAnchor={tick === 0 ? "start" : "middle"}>
            {digits(tick)}
            {tick === 0 ? ` ${unit}` : ""}
          </text>
        </g>
      ))}
    </g>
  );
}

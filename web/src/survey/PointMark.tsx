import { useLook } from "../look/Look";
import { VerdictMark, type VerdictWord } from "../look/Verdict";
import { pointButton, type PointProps } from "./pointButton";

interface Props extends PointProps {
  x: number;
  y: number;
  verdict: VerdictWord;
}

/** A point of a curve by its verdict's shape. */
export function PointMark({ x, y, verdict, ...point }: Props) {
  const { colours } = useLook();
  return (
    <g transform={`translate(${x} ${y})`} {...pointButton(point)}>
      <title>{point.label}</title>
      <circle
        r={11}
        fill={point.picked ? colours.sheet : "transparent"}
        stroke={point.picked ? colours.ink : "none"}
        strokeWidth={2}
      />
      <g transform="translate(-5 -5)">
        <VerdictMark verdict={verdict} size={10} />
      </g>
    </g>
  );
}

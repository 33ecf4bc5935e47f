import type { Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits, unitShown } from "../../look/numbers";
import { Chart } from "../../plot/Chart";
import { useScales } from "../../plot/scales";
import { useUnit } from "../PartContext";

type Life = NonNullable<Spring["life"]>;

/** Goodman's line for the life asked for, and the stresses between the first and the last working point. */
export function LifeDiagram({ life }: { life: Life }) {
  const { colours } = useLook();
  const { size, unit } = unitShown("MPa", useUnit());
  const [mean, amplitude, endurance, breaking] = [
    life.mean,
    life.amplitude,
    life.endurance,
    life.breaking,
  ].map((stress) => stress / size) as [number, number, number, number];
  const means = [...new Set([0, mean, breaking])].sort((a, b) => a - b);
  const allowed = (at: number) => (at <= breaking ? endurance * (1 - at / breaking) : null);
  const reached = (at: number) => (at <= mean ? (amplitude * at) / (mean || 1) : null);
  return (
    <Chart
      label={`Life: ${digits(100 * life.utilisation, 3)} % of Goodman's line is used`}
      height={190}
      along={{
        label: `mean of the corrected stress in ${life.where}, ${unit}`,
        values: means,
        low: 0,
        high: 1.02 * Math.max(breaking, mean),
      }}
      left={{ label: `amplitude, ${unit}`, low: 0, high: 1.1 * Math.max(endurance, amplitude) }}
      lines={[
        { label: "Goodman's line", values: means.map(allowed), colour: colours.stop },
        { label: "at work", values: means.map(reached), colour: colours.pencil, dashed: true },
      ]}
    >
      <Point mean={mean} amplitude={amplitude} beyond={life.utilisation > 1} />
    </Chart>
  );
}

function Point(props: { mean: number; amplitude: number; beyond: boolean }) {
  const { colours } = useLook();
  const { x, y } = useScales();
  return (
    <circle
      cx={x(props.mean)}
      cy={y(props.amplitude)}
      r={5}
      fill={colours.sheet}
      stroke={props.beyond ? colours.stop : colours.ink}
      strokeWidth={2}
    />
  );
}

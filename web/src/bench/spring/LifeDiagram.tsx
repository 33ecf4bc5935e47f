import type { Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";
import { Chart } from "../../plot/Chart";
import { useScales } from "../../plot/scales";

type Life = NonNullable<Spring["life"]>;

/** Goodman's line for the life asked for, and the stresses between the first and the last working point. */
export function LifeDiagram({ life }: { life: Life }) {
  const { colours } = useLook();
  const { mean, amplitude, endurance, breaking } = life;
  const means = [...new Set([0, mean, breaking])].sort((a, b) => a - b);
  const allowed = (at: number) => (at <= breaking ? endurance * (1 - at / breaking) : null);
  const reached = (at: number) => (at <= mean ? (amplitude * at) / (mean || 1) : null);
  return (
    <Chart
      label={`Life: ${digits(100 * life.utilisation, 3)} % of Goodman's line is used`}
      height={190}
      along={{
        label: `mean of the corrected stress in ${life.where}, MPa`,
        values: means,
        low: 0,
        high: 1.02 * Math.max(breaking, mean),
      }}
      left={{ label: "amplitude, MPa", low: 0, high: 1.1 * Math.max(endurance, amplitude) }}
      lines={[
        { label: "Goodman's line", values: means.map(allowed), colour: colours.stop },
        { label: "at work", values: means.map(reached), colour: colours.pencil, dashed: true },
      ]}
    >
      <Point life={life} />
    </Chart>
  );
}

function Point({ life }: { life: Life }) {
  const { colours } = useLook();
  const { x, y } = useScales();
  return (
    <circle
      cx={x(life.mean)}
      cy={y(life.amplitude)}
      r={5}
      fill={colours.sheet}
      stroke={life.utilisation > 1 ? colours.stop : colours.ink}
      strokeWidth={2}
    />
  );
}

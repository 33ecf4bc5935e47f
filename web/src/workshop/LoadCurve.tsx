import type { LoadTest } from "../api/client";
import type { unitShown } from "../look/numbers";
import { useLook } from "../look/Look";
import { Chart } from "../plot/Chart";
import { useScales } from "../plot/scales";

type Shown = ReturnType<typeof unitShown>;

interface Props {
  test: LoadTest;
  /** What is shown of a length in mm, and of a force in N. */
  length: Shown;
  force: Shown;
}

/** What the tester read, going filled and coming back open, on the line that was calculated. */
export function LoadCurve({ test, length, force }: Props) {
  const { colours } = useLook();
  const column = (name: "length" | "calculated" | "going" | "back") =>
    test.readings.map((row) => row[name] / (name === "length" ? length : force).size);
  return (
    <Chart
      label="Force over length, read and calculated"
      height={220}
      along={{ label: `length, ${length.unit}`, values: column("length") }}
      left={{ label: `force, ${force.unit}`, low: 0 }}
      lines={[{ label: "calculated", values: column("calculated"), colour: colours.pencil }]}
      table={[
        { title: `length, ${length.unit}`, values: column("length") },
        { title: `calculated, ${force.unit}`, values: column("calculated") },
        { title: `going, ${force.unit}`, values: column("going") },
        { title: `back, ${force.unit}`, values: column("back") },
      ]}
    >
      <Readings test={test} length={length} force={force} />
    </Chart>
  );
}

function Readings({ test, length, force }: Props) {
  const { colours } = useLook();
  const { x, y } = useScales();
  return test.readings.map((row) => (
    <g key={row.length} stroke={colours.copper} strokeWidth={1.5}>
      <circle
        cx={x(row.length / length.size)}
        cy={y(row.back / force.size)}
        r={3.4}
        fill={colours.paper}
      />
      <circle
        cx={x(row.length / length.size)}
        cy={y(row.going / force.size)}
        r={2.6}
        fill={colours.copper}
      />
    </g>
  ));
}

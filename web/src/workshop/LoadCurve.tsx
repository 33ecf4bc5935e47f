import type { LoadTest } from "../api/client";
import { useLook } from "../look/Look";
import { Chart } from "../plot/Chart";
import { useScales } from "../plot/scales";

/** What the tester read, going filled and coming back open, on the line that was reckoned. */
export function LoadCurve({ test }: { test: LoadTest }) {
  const { colours } = useLook();
  const column = (name: "length" | "reckoned" | "going" | "back") =>
    test.readings.map((row) => row[name]);
  return (
    <Chart
      label="Force over length, read and reckoned"
      height={220}
      along={{ label: "length, mm", values: column("length") }}
      left={{ label: "force, N", low: 0 }}
      lines={[{ label: "reckoned", values: column("reckoned"), colour: colours.pencil }]}
      table={[
        { title: "length, mm", values: column("length") },
        { title: "reckoned, N", values: column("reckoned") },
        { title: "going, N", values: column("going") },
        { title: "back, N", values: column("back") },
      ]}
    >
      <Readings test={test} />
    </Chart>
  );
}

function Readings({ test }: { test: LoadTest }) {
  const { colours } = useLook();
  const { x, y } = useScales();
  return test.readings.map((row) => (
    <g key={row.length} stroke={colours.copper} strokeWidth={1.5}>
      <circle cx={x(row.length)} cy={y(row.back)} r={3.4} fill={colours.paper} />
      <circle cx={x(row.length)} cy={y(row.going)} r={2.6} fill={colours.copper} />
    </g>
  ));
}

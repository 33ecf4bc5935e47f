import { useLook } from "../look/Look";
import { MM, type LengthUnit } from "../look/numbers";
import { Chart } from "../plot/Chart";

/** The settings of the former over the wire that it is fed: diameter at the left, pitch at the right; faint, what they spring back to. */
export function SettingsCurve({ rows, unit }: { rows: number[][]; unit: LengthUnit }) {
  const { colours } = useLook();
  const column = (k: number) => rows.map((row) => row[k]! / MM[unit]);
  const line = (label: string, k: number, pitch: boolean, faint: boolean) => ({
    label,
    values: column(k),
    colour: pitch ? colours.clear : colours.copper,
    side: pitch ? ("right" as const) : ("left" as const),
    dashed: pitch,
    faint,
  });
  return (
    <Chart
      label="Diameter and pitch settings over the wire that is fed"
      along={{ label: `wire fed, ${unit}`, values: column(0), low: 0, high: column(0).at(-1)! }}
      left={{
        label: `diameter setting, ${unit}`,
        colour: colours.copper,
        ...roomy(column(1), column(3)),
      }}
      right={{
        label: `pitch setting (dashed), ${unit}`,
        colour: colours.clear,
        ...roomy(column(2), column(4)),
      }}
      lines={[
        line("diameter free", 3, false, true),
        line("diameter setting", 1, false, false),
        line("pitch free", 4, true, true),
        line("pitch setting", 2, true, false),
      ]}
    />
  );
}

/** A range around values that may all be one. */
function roomy(...columns: number[][]): { low: number; high: number } {
  const all = columns.flat();
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = 0.1 * Math.max(high - low, 0.1 * Math.abs(high), 1e-6);
  return { low: low - room, high: high + room };
}

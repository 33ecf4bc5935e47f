import Typography from "@mui/material/Typography";
import type { Found } from "../api/client";
import { useLook } from "../look/Look";
import { digits, type LengthUnit } from "../look/numbers";
import type { VerdictWord } from "../look/Verdict";
import { Chart } from "../plot/Chart";
import { useScales } from "../plot/scales";
import { inUnit, titled, type ShownColumn } from "./found";
import { FilledPlace } from "./FilledPlace";
import { PointMark } from "./PointMark";

export interface ChartProps {
  found: Found;
  column: ShownColumn;
  unit: LengthUnit;
  picked: number | null;
  onPick: (point: number) => void;
}

/** One input along the base, a figure up the side, each point of which wears its verdict; and another one up the other
 * side. */
export function Curve(props: ChartProps & { beside: ShownColumn | null }) {
  const { found, column, beside, unit } = props;
  const { colours } = useLook();
  const input = found.inputs[0]!;
  const across = found.steps[0]!;
  const values = inUnit(column, unit);
  const title = `${[column, ...(beside ? [beside] : [])].map((one) => one.title).join(" and ")} over ${input.words}`;
  const others = beside && inUnit(beside, unit);
  const named = beside && titled(beside.title, beside.unit, unit);
  const seen = input.value >= across[0]! && input.value <= across.at(-1)!;
  return (
    <>
      <Typography variant="h2">{beside ? title : titled(title, column.unit, unit)}</Typography>
      <FilledPlace>
        <Chart
          label={title}
          along={{ label: titled(input.words, input.unit), values: across }}
          left={{ label: titled(column.title, column.unit, unit) }}
          {...(named && { right: { label: named, colour: colours.copper } })}
          lines={[
            {
              label: column.title,
              values: across.map((_, k) => values[k] ?? null),
              colour: colours.ink,
            },
            ...(others
              ? [
                  {
                    label: beside.title,
                    values: across.map((_, k) => others[k] ?? null),
                    colour: colours.copper,
                    dashed: true,
                    side: "right" as const,
                  },
                ]
              : []),
          ]}
          rules={seen ? [{ x: input.value, label: "now", colour: colours.copper }] : []}
          table={[
            { title: titled(input.words, input.unit), values: across },
            { title: titled(column.title, column.unit, unit), values },
            ...(others && named ? [{ title: named, values: others }] : []),
            { title: "verdict", values: found.verdicts },
          ]}
        >
          <Points {...props} values={values} />
        </Chart>
      </FilledPlace>
    </>
  );
}

function Points(props: ChartProps & { values: (number | null)[] }) {
  const { found, values, picked, onPick } = props;
  const { x, y } = useScales();
  const input = found.inputs[0]!;
  const [foot] = y.range();
  return found.steps[0]!.slice(0, found.verdicts.length).map((value, k) => (
    <PointMark
      key={value}
      x={x(value)}
      y={values[k] == null ? foot! : y(values[k])}
      verdict={found.verdicts[k] as VerdictWord}
      index={k}
      count={found.verdicts.length}
      steps={{ ArrowLeft: -1, ArrowRight: 1 }}
      picked={picked === k}
      reached={k === (picked ?? 0)}
      label={`${input.words} ${digits(value, 6)} ${input.unit}: ${
        values[k] == null ? "" : digits(values[k])
      } ${found.verdicts[k]}`}
      onPick={onPick}
    />
  ));
}

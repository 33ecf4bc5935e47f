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
  const shown = [column, ...(beside ? [beside] : [])].map((one) => ({
    name: one.title,
    title: titled(one.title, one.unit, unit),
    values: inUnit(one, unit),
  }));
  const [left, right] = shown as [(typeof shown)[0], (typeof shown)[1]?];
  const title = `${shown.map((one) => one.name).join(" and ")} over ${input.words}`;
  const seen = input.value >= across[0]! && input.value <= across.at(-1)!;
  return (
    <>
      <Typography variant="h2">{beside ? title : titled(title, column.unit, unit)}</Typography>
      <FilledPlace>
        <Chart
          label={title}
          along={{ label: titled(input.words, input.unit), values: across }}
          left={{ label: left.title }}
          {...(right && { right: { label: right.title, colour: colours.copper } })}
          lines={shown.map((one) => ({
            label: one.name,
            values: across.map((_, k) => one.values[k] ?? null),
            ...(one === left
              ? { colour: colours.ink }
              : { colour: colours.copper, dashed: true, side: "right" as const }),
          }))}
          rules={seen ? [{ x: input.value, label: "now", colour: colours.copper }] : []}
          table={[
            { title: titled(input.words, input.unit), values: across },
            ...shown,
            { title: "verdict", values: found.verdicts },
          ]}
        >
          <Points {...props} values={left.values} />
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

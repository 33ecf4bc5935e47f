import Typography from "@mui/material/Typography";
import { useLook } from "../look/Look";
import { digits } from "../look/numbers";
import { VerdictMark, type VerdictWord } from "../look/Verdict";
import { Chart } from "../plot/Chart";
import { useScales, type Bands } from "../plot/scales";
import type { ChartProps } from "./Curve";
import { inUnit, pointAt, titled } from "./found";
import { FilledPlace } from "./FilledPlace";
import { pointButton } from "./pointButton";

/** Two inputs, the second along the base: a cell a point, with its verdict and, where it has room, the figure. */
export function VerdictMap(props: ChartProps) {
  const { found, column, unit } = props;
  const [up, along] = found.steps as [number[], number[]];
  const [rising, going] = found.inputs;
  const values = inUnit(column, unit);
  const title = `${column.title} by ${rising!.words} and ${going!.words}`;
  const told = [titled(rising!.words, rising!.unit), titled(going!.words, going!.unit)] as const;
  return (
    <>
      <Typography variant="h2">{titled(title, column.unit, unit)}</Typography>
      <FilledPlace>
        <Chart
          label={title}
          along={{ label: told[1], values: along, bands: true }}
          left={{ label: told[0], values: up, bands: true }}
          table={[
            ...told.map((name, k) => ({
              title: name,
              values: found.verdicts.map((_, point) => pointAt(found, point)[k]!),
            })),
            { title: titled(column.title, column.unit, unit), values },
            { title: "verdict", values: found.verdicts },
          ]}
        >
          <Cells {...props} values={values} />
        </Chart>
      </FilledPlace>
    </>
  );
}

function Cells({ found, values, picked, onPick }: ChartProps & { values: (number | null)[] }) {
  const { colours } = useLook();
  const { x, y } = useScales<Bands>();
  const [rising, going] = found.inputs;
  const inner = found.steps[1]!.length;
  const [wide, high] = [x.bandwidth(), y.bandwidth()];
  const roomy = wide > 38 && high > 24;
  return found.verdicts.map((word, point) => {
    const verdict = word as VerdictWord;
    const [a, b] = pointAt(found, point) as [number, number];
    const value = values[point];
    const label = `${rising!.words} ${digits(a, 6)}, ${going!.words} ${digits(b, 6)}: ${
      value == null ? "" : digits(value)
    } ${verdict}`;
    const button = pointButton({
      index: point,
      count: found.verdicts.length,
      steps: { ArrowLeft: -1, ArrowRight: 1, ArrowUp: inner, ArrowDown: -inner },
      picked: picked === point,
      reached: point === (picked ?? 0),
      label,
      onPick,
    });
    return (
      <g key={point} transform={`translate(${x(b)} ${y(a)})`} {...button}>
        <title>{label}</title>
        <rect
          x={0.5}
          y={0.5}
          width={Math.max(wide - 1, 0.5)}
          height={Math.max(high - 1, 0.5)}
          fill={verdict === "unusable" ? colours.line : colours[verdict]}
          fillOpacity={0.16}
          stroke={picked === point ? colours.ink : "none"}
          strokeWidth={2.5}
        />
        <g transform={`translate(${wide / 2 - 4.5} ${roomy ? 4 : high / 2 - 4.5})`}>
          <VerdictMark verdict={verdict} size={9} />
        </g>
        {roomy && value != null && (
          <text x={wide / 2} y={high - 5} textAnchor="middle" fontSize={10} fill={colours.ink}>
            {digits(value, 4)}
          </text>
        )}
      </g>
    );
  });
}

import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useLook } from "../look/Look";
import { digits, unitShown } from "../look/numbers";
import { VerdictMark, type VerdictWord } from "../look/Verdict";
import { Chart } from "../plot/Chart";
import { useScales, type Bands } from "../plot/scales";
import type { ChartProps } from "./Curve";
import { levelsOf } from "./contours";
import { inUnit, pointAt, titled } from "./found";
import { FilledPlace } from "./FilledPlace";
import { pointButton } from "./pointButton";

/** Two inputs, the second along the base: a cell a point, the deeper the greater its figure, outlined and marked by its
 * verdict. */
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
      <Ramp values={values} unit={unitShown(column.unit, unit).unit} />
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
          <Contours {...props} values={values} />
        </Chart>
      </FilledPlace>
    </>
  );
}

/** How far each value is from the least to the greatest. */
function shares(values: (number | null)[]): (number | null)[] {
  const known = values.filter((value) => value !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return values.map((value) => (value === null ? null : (value - low) / (high - low || 1)));
}

/** Which colour is how much. */
function Ramp({ values, unit }: { values: (number | null)[]; unit: string }) {
  const { colours } = useLook();
  const known = values.filter((value) => value !== null);
  if (known.length === 0) return null;
  return (
    <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
      <Typography variant="caption">{digits(Math.min(...known), 4)}</Typography>
      <svg width="140" height="10" aria-hidden="true">
        {Array.from({ length: 14 }, (_, k) => (
          <rect
            key={k}
            x={k * 10}
            width={10}
            height={10}
            fill={colours.copper}
            fillOpacity={0.06 + (0.6 * k) / 13}
          />
        ))}
      </svg>
      <Typography variant="caption">
        {digits(Math.max(...known), 4)} {unit}; outlined: watch or stop
      </Typography>
    </Stack>
  );
}

/** Lines along which the figure stays the same, each with its value. */
function Contours({ found, values }: ChartProps & { values: (number | null)[] }) {
  const { colours } = useLook();
  const { x, y } = useScales<Bands>();
  const [up, along] = found.steps as [number[], number[]];
  const levels = levelsOf(values, along.length, up.length);
  const middle = (scale: Bands, steps: number[], place: number) => {
    const first = scale(steps[0]!) + scale.bandwidth() / 2;
    return first + place * (scale(steps[1]!) - scale(steps[0]!));
  };
  const at = ([i, j]: [number, number]) =>
    [middle(x, along, i), middle(y, up, j)].map((c) => c.toFixed(1)).join(" ");
  return (
    <g aria-hidden="true" pointerEvents="none" fill="none" stroke={colours.ink} strokeWidth={1.2}>
      {levels.map(({ value, runs }) => (
        <g key={value}>
          {runs.map((run, k) => (
            <path key={k} d={`M${run.map(at).join("L")}`} strokeOpacity={0.7} />
          ))}
          <Label text={digits(value, 4)} at={at(longest(runs))} />
        </g>
      ))}
    </g>
  );
}

/** The middle of the longest run, halfway between two rows or columns, where no verdict is marked. */
function longest(runs: [number, number][][]): [number, number] {
  const run = runs.reduce((a, b) => (b.length > a.length ? b : a));
  const middle = Math.floor(run.length / 2);
  const [[x0, y0], [x1, y1]] = [run[middle - 1]!, run[middle]!];
  return [(x0 + x1) / 2, (y0 + y1) / 2];
}

function Label({ text, at }: { text: string; at: string }) {
  const { colours } = useLook();
  return (
    <text
      transform={`translate(${at})`}
      textAnchor="middle"
      dy={3}
      fontSize={10}
      fill={colours.ink}
      stroke={colours.paper}
      strokeWidth={3}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

function Cells({ found, values, picked, onPick }: ChartProps & { values: (number | null)[] }) {
  const { colours } = useLook();
  const { x, y } = useScales<Bands>();
  const [rising, going] = found.inputs;
  const inner = found.steps[1]!.length;
  const [wide, high] = [x.bandwidth(), y.bandwidth()];
  const roomy = wide > 38 && high > 24;
  const share = shares(values);
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
          fill={share[point] === null ? colours.line : colours.copper}
          fillOpacity={share[point] === null ? 0.4 : 0.06 + 0.6 * share[point]!}
        />
        <rect
          x={1.5}
          y={1.5}
          width={Math.max(wide - 3, 0.5)}
          height={Math.max(high - 3, 0.5)}
          fill="none"
          stroke={
            picked === point
              ? colours.ink
              : verdict === "unusable" || verdict === "clear"
                ? "none"
                : colours[verdict]
          }
          strokeWidth={picked === point ? 3 : 1.5}
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

import Box from "@mui/material/Box";
import { ChartsAxisHighlight } from "@mui/x-charts/ChartsAxisHighlight";
import { ChartsDataProvider } from "@mui/x-charts/ChartsDataProvider";
import { ChartsGrid } from "@mui/x-charts/ChartsGrid";
import { ChartsLayerContainer } from "@mui/x-charts/ChartsLayerContainer";
import { ChartsSvgLayer } from "@mui/x-charts/ChartsSvgLayer";
import { ChartsTooltip } from "@mui/x-charts/ChartsTooltip";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { LinePlot } from "@mui/x-charts/LineChart";
import { useRef, type ReactNode } from "react";
import { digits } from "../look/numbers";
import { useLook } from "../look/Look";
import type { Column } from "./files";
import { KeepChart } from "./KeepChart";
import { Rules, type Rule } from "./Rules";

/** An axis: its title with the unit, and how far it goes where that is not what its values say. */
export interface Side {
  label: string;
  low?: number;
  high?: number;
  colour?: string;
}

/** The axis along the base; `bands` are steps that stand side by side, whatever their distance. */
export interface Along extends Side {
  values: number[];
  bands?: boolean;
  reverse?: boolean;
}

export interface Line {
  label: string;
  values: (number | null)[];
  colour: string;
  dashed?: boolean;
  faint?: boolean;
  side?: "left" | "right";
}

interface Props {
  label: string;
  along: Along;
  left: Side & { values?: number[]; bands?: boolean };
  right?: Side;
  lines?: Line[];
  rules?: Rule[];
  /** Pixels; what there is where it is left out. */
  height?: number;
  /** What is drawn over it, placed by the hooks `useXScale` and `useYScale`. */
  children?: ReactNode;
  /** The columns of the table that is kept; those of the lines where it is left out. */
  table?: Column[];
}

/** Over the chart, whose own layer is hidden from whoever does not see it. */
const OVER = {
  position: "absolute",
  inset: 0,
  width: "100%",
  height: "100%",
  overflow: "visible",
  pointerEvents: "none",
} as const;

/** A chart: axes, lines, the values under the pointer, and itself to keep as a drawing, a picture or a table. */
export function Chart({ label, along, left, right, lines = [], rules = [], ...more }: Props) {
  const { colours } = useLook();
  const root = useRef<HTMLDivElement>(null);
  const columns = more.table ?? [
    { title: along.label, values: along.values },
    ...lines.map(({ label: title, values }) => ({ title, values })),
  ];
  const side = (id: string, { label: title, low, high, colour = colours.pencil }: Side) => ({
    id,
    label: title,
    labelStyle: { fill: colour, fontSize: 11 },
    tickLabelStyle: { fill: colour, fontSize: 11 },
    ...(low === undefined ? {} : { min: low }),
    ...(high === undefined ? {} : { max: high }),
    ...(low === undefined && high === undefined ? { domainLimit: "nice" as const } : {}),
    valueFormatter: (value: number) => digits(value, 5),
  });
  const band = { scaleType: "band" as const, categoryGapRatio: 0 };
  return (
    <Box sx={{ position: "relative", width: "100%", height: more.height ?? "100%", minHeight: 0 }}>
      <Box
        ref={root}
        role="group"
        aria-label={label}
        sx={{
          height: "100%",
          ...Object.fromEntries(
            lines.map(({ dashed, faint }, k) => [
              `& [data-series="${k}"]`,
              {
                strokeWidth: faint ? 1 : 2,
                opacity: faint ? 0.5 : 1,
                ...(dashed ? { strokeDasharray: "6 3" } : {}),
              },
            ]),
          ),
        }}
      >
        <ChartsDataProvider
          skipAnimation
          margin={{ left: 0, right: right ? 0 : 12, top: 14, bottom: 0 }}
          series={lines.map(({ label: title, values, colour, side: at }, k) => ({
            type: "line" as const,
            id: String(k),
            label: title,
            data: values,
            color: colour,
            curve: "linear" as const,
            showMark: false,
            yAxisId: at ?? "left",
            valueFormatter: (value: number | null) => (value === null ? "" : digits(value, 5)),
          }))}
          xAxis={[
            {
              ...side("along", along),
              data: along.values,
              height: 44,
              reverse: along.reverse ?? false,
              ...(along.bands ? band : { scaleType: "linear" as const }),
            },
          ]}
          yAxis={[
            {
              ...side("left", left),
              width: 62,
              ...(left.bands ? { ...band, data: left.values ?? [], reverse: true } : {}),
            },
            ...(right ? [{ ...side("right", right), width: 62, position: "right" as const }] : []),
          ]}
        >
          <ChartsLayerContainer>
            <ChartsSvgLayer>
              {!along.bands && <ChartsGrid horizontal vertical />}
              <LinePlot skipAnimation />
              <Rules rules={rules} />
              <ChartsXAxis axisId="along" />
              <ChartsYAxis axisId="left" />
              {right && <ChartsYAxis axisId="right" />}
              {lines.length > 0 && <ChartsAxisHighlight x="line" />}
            </ChartsSvgLayer>
            {more.children && (
              <svg style={OVER}>
                <g style={{ pointerEvents: "auto" }}>{more.children}</g>
              </svg>
            )}
          </ChartsLayerContainer>
          {lines.length > 0 && <ChartsTooltip trigger="axis" />}
        </ChartsDataProvider>
      </Box>
      <KeepChart label={label} root={root} columns={columns} />
    </Box>
  );
}

import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { MM, lengthText, type LengthUnit } from "../../look/numbers";
import { useLook } from "../../look/Look";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { ChoiceField } from "../forms/KindFields";
import { SectionExtras, SectionFields } from "../forms/SectionFields";
import { usePartContext, useUnit, useWoundTold } from "../PartContext";
import { ValueField } from "../ValueField";

const RIDES = [
  ["centre", "centre"],
  ["inside", "inside"],
  ["outside", "outside"],
  ["offset", "offset"],
] as const;

/** The shape of the wire, drawn in both of its planes. */
export function SectionStep() {
  const { recipe, unit, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const section = recipe.section;
  const rides = typeof section.rides_at === "string" ? section.rides_at : "centre";
  const offset = Array.isArray(section.rides_at);
  const size = sizeOf(part) / MM[unit];
  return (
    <Stack spacing={1.5}>
      <SectionFields place="/section" size={size} label="Shape" />
      <Stack direction="row" spacing={1}>
        <ChoiceField place="/section/plane" />
        <Choice
          label="Rides at its"
          value={offset ? "offset" : rides}
          options={RIDES}
          onChange={(v) => set("/section/rides_at", v === "offset" ? [0, 0] : v)}
        />
      </Stack>
      {offset && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Offset outward" place="/section/rides_at/0" />
          <ValueField label="Offset upward" place="/section/rides_at/1" />
        </Stack>
      )}
      {part.report && <Planes />}
      <SectionExtras place="/section" size={size} />
    </Stack>
  );
}

function sizeOf(part: ReturnType<typeof usePartContext>["part"]): number {
  const section = part.report?.section;
  const u = (section?.across ?? section?.axial)?.[0]?.map(([x]) => x ?? 0) ?? [-1, 1];
  return Math.max(...u) - Math.min(...u);
}

interface Drawn {
  name: string;
  rings: number[][][];
}

/** The outline across the wire and through the axis, to one scale; of a blend, its outlines in a row. */
function Planes() {
  const part = useWoundTold();
  const unit = useUnit();
  const { across, axial, closed, blend, edges } = part.report!.section;
  const drawn: Drawn[] = [];
  if (blend.length) {
    for (const { at, ring } of blend)
      drawn.push({ name: `at ${Math.round(100 * at)} %`, rings: [ring] });
  } else {
    if (across) drawn.push({ name: "across the wire", rings: across });
    if (axial) drawn.push({ name: "through the axis", rings: axial });
  }
  const boxes = drawn.map(({ rings }) => bounds(rings[0] ?? []));
  const largest = Math.max(...boxes.flatMap((b) => [b.width, b.height]), 1e-9);
  const side = blend.length ? 44 : 104;
  return (
    <Stack direction="row" spacing={0.5} sx={{ justifyContent: "space-around" }}>
      {drawn.map(({ name, rings }, index) => (
        <Outline
          key={name}
          name={name}
          rings={rings}
          scale={(side - 18) / largest}
          side={side}
          unit={unit}
          box={boxes[index]!}
          closed={closed}
          small={blend.length > 0}
          edges={blend.length || index > 0 ? [] : edges}
        />
      ))}
    </Stack>
  );
}

interface Box2 {
  left: number;
  low: number;
  width: number;
  height: number;
}

function bounds(points: number[][]): Box2 {
  const u = points.map((p) => p[0]!);
  const v = points.map((p) => p[1]!);
  const left = Math.min(...u);
  const low = Math.min(...v);
  return { left, low, width: Math.max(...u) - left, height: Math.max(...v) - low };
}

function Outline(props: {
  name: string;
  rings: number[][][];
  scale: number;
  side: number;
  box: Box2;
  unit: LengthUnit;
  closed: boolean;
  small: boolean;
  edges: number[];
}) {
  const { recipe } = usePartContext();
  const { colours } = useLook();
  const { rings, scale, side, box, unit, closed, edges } = props;
  const width = side + 20;
  const x = (u: number) => width / 2 + (u - box.left - box.width / 2) * scale;
  const y = (v: number) => side / 2 - (v - box.low - box.height / 2) * scale;
  const path = (points: number[][]) =>
    points.map((p, i) => `${i ? "L" : "M"}${x(p[0]!)} ${y(p[1]!)}`).join("");
  const d = rings.map((ring) => path(ring) + (closed ? "Z" : "")).join("");
  const outer = rings[0] ?? [];
  const painted = recipe.section.paint ?? [];
  return (
    <Box component="figure" sx={{ m: 0, textAlign: "center" }}>
      <svg width={width} height={side} role="img" aria-label={`Section ${props.name}`}>
        <path
          d={d}
          fill={closed ? colours.copper : "none"}
          fillOpacity="0.28"
          fillRule="evenodd"
          stroke={colours.copper}
          strokeWidth="1.5"
        />
        {edges.length > 0 &&
          painted.map((band) => {
            const from = edges[band.edge] ?? 0;
            const to = edges[band.edge + 1] ?? outer.length;
            const run = [...outer.slice(from, to), outer[to % outer.length]!];
            return (
              <path
                key={band.edge}
                d={path(run)}
                fill="none"
                stroke={band.colour}
                strokeWidth="4"
              />
            );
          })}
        {painted.length > 0 &&
          edges.map((from, i) => {
            const to = edges[i + 1] ?? outer.length;
            const middle = outer[Math.floor((from + to) / 2) % outer.length]!;
            return (
              <text
                key={i}
                x={x(middle[0]! * 0.82)}
                y={y(middle[1]! * 0.82) + 3}
                fontSize="9"
                textAnchor="middle"
                fill={colours.ink}
              >
                {i + 1}
              </text>
            );
          })}
        <path
          d={`M${x(0) - 5} ${y(0)}h10M${x(0)} ${y(0) - 5}v10`}
          stroke={colours.ink}
          strokeWidth="1"
        />
      </svg>
      <Typography component="figcaption" variant="caption">
        {props.name}
        {!props.small && (
          <>
            <br />
            {lengthText(box.width, unit)} × {lengthText(box.height, unit)}
          </>
        )}
      </Typography>
    </Box>
  );
}

import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Recipe } from "../../api/client";
import { MM, lengthText, type LengthUnit } from "../../look/numbers";
import { useLook } from "../../look/Look";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

type Section = Recipe["section"];

const KINDS = [
  ["round", "round"],
  ["rectangle", "rectangle"],
  ["polygon", "polygon"],
  ["ellipse", "ellipse"],
] as const;
const PLANES = [
  ["across", "across the wire"],
  ["axial", "through the axis"],
] as const;
const RIDES = [
  ["centre", "centre"],
  ["inside", "inside"],
  ["outside", "outside"],
  ["offset", "offset"],
] as const;

/** The shape of the wire, drawn in both of its planes. */
export function SectionStep() {
  const { recipe, unit, part } = usePartContext();
  const change = useRecipe((state) => state.change);
  const set = useRecipe((state) => state.set);
  const section = recipe.section;
  const rides = typeof section.rides_at === "string" ? section.rides_at : "centre";
  const offset = Array.isArray(section.rides_at);
  return (
    <Stack spacing={1.5}>
      <Choice
        label="Shape"
        value={section.kind}
        options={KINDS}
        onChange={(kind) =>
          change((old) => ({ ...old, section: shaped(kind, old.section, unit, sizeOf(part)) }))
        }
      />
      {section.kind === "round" && (
        <ValueField label="Wire diameter" place="/section/diameter" unit={unit} />
      )}
      {(section.kind === "rectangle" || section.kind === "ellipse") && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Width, from the axis" place="/section/width" unit={unit} />
          <ValueField label="Height, along it" place="/section/height" unit={unit} />
        </Stack>
      )}
      {section.kind === "rectangle" && (
        <ValueField label="Corner radius" place="/section/corner_radius" unit={unit} optional />
      )}
      {section.kind === "polygon" && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Sides" place="/section/sides" step={1} />
          <ValueField label="Across flats" place="/section/across_flats" unit={unit} />
        </Stack>
      )}
      <Stack direction="row" spacing={1}>
        <Choice
          label="Given in the plane"
          value={section.plane ?? "across"}
          options={PLANES}
          onChange={(v) => set("/section/plane", v)}
        />
        <Choice
          label="Rides at its"
          value={offset ? "offset" : rides}
          options={RIDES}
          onChange={(v) => set("/section/rides_at", v === "offset" ? [0, 0] : v)}
        />
      </Stack>
      {offset && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Offset outward" place="/section/rides_at/0" unit={unit} />
          <ValueField label="Offset upward" place="/section/rides_at/1" unit={unit} />
        </Stack>
      )}
      {part.report && <Planes />}
    </Stack>
  );
}

function sizeOf(part: ReturnType<typeof usePartContext>["part"]): number {
  const u = part.report?.section.across.map(([x]) => x ?? 0) ?? [-1, 1];
  return Math.max(...u) - Math.min(...u);
}

/** A section of another kind about as large as the present one. */
function shaped(kind: Section["kind"], old: Section, unit: LengthUnit, mm: number): Section {
  if (old.kind === kind) return old;
  const size = Number((mm / MM[unit]).toPrecision(3));
  const shared = { plane: old.plane, rides_at: old.rides_at };
  switch (kind) {
    case "round":
      return { kind, diameter: size, ...shared };
    case "polygon":
      return { kind, sides: 6, across_flats: size, ...shared };
    case "rectangle":
      return { kind, width: size, height: size, ...shared };
    case "ellipse":
      return { kind, width: size, height: size, ...shared };
  }
}

/** The outline across the wire and through the axis, to one scale. */
function Planes() {
  const { part, unit } = usePartContext();
  const { across, axial } = part.report!.section;
  const drawn: [string, number[][]][] = [["across the wire", across]];
  if (axial) drawn.push(["through the axis", axial]);
  const spans = drawn.map(([, points]) => bounds(points));
  const largest = Math.max(...spans.flatMap((b) => [b.width, b.height]), 1e-9);
  return (
    <Stack direction="row" spacing={1} sx={{ justifyContent: "space-around" }}>
      {drawn.map(([name, points], index) => (
        <Outline
          key={name}
          name={name}
          points={points}
          scale={84 / largest}
          unit={unit}
          box={spans[index]!}
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
  points: number[][];
  scale: number;
  box: Box2;
  unit: LengthUnit;
}) {
  const { colours } = useLook();
  const { points, scale, box, unit } = props;
  const x = (u: number) => 62 + (u - box.left - box.width / 2) * scale;
  const y = (v: number) => 52 - (v - box.low - box.height / 2) * scale;
  const d = points.map((p, i) => `${i ? "L" : "M"}${x(p[0]!)} ${y(p[1]!)}`).join("") + "Z";
  return (
    <Box component="figure" sx={{ m: 0, textAlign: "center" }}>
      <svg width="124" height="104" role="img" aria-label={`Section ${props.name}`}>
        <path
          d={d}
          fill={colours.copper}
          fillOpacity="0.28"
          stroke={colours.copper}
          strokeWidth="1.5"
        />
        <path
          d={`M${x(0) - 5} ${y(0)}h10M${x(0)} ${y(0) - 5}v10`}
          stroke={colours.ink}
          strokeWidth="1"
        />
      </svg>
      <Typography component="figcaption" variant="caption">
        {props.name}
        <br />
        {lengthText(box.width, unit)} × {lengthText(box.height, unit)}
      </Typography>
    </Box>
  );
}

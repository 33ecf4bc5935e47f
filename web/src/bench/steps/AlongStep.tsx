import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import type { Recipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { ScheduleFields, type Schedule, type Way } from "../forms/ScheduleFields";
import { usePartContext } from "../PartContext";
import { capital } from "../../look/words";

type Along = NonNullable<Recipe["along"]>;
type Name = keyof Along;

interface Row {
  name: Name;
  title: string;
  label: string;
  unit: string;
  step: number;
  still: number;
  ways: readonly Way[];
  start: Schedule;
}

const ANGLE: readonly Way[] = ["total", "from", "points", "formula"];
const FACTOR: readonly Way[] = ["from", "points", "formula"];
const factor = { unit: "×", step: 0.05, still: 1, ways: FACTOR, start: { from: 1, to: 0.6 } };

const ROWS: readonly Row[] = [
  {
    name: "twist",
    title: "Twist, even in true length",
    label: "Twist",
    unit: "°",
    step: 15,
    still: 0,
    ways: ANGLE,
    start: { total: 360 },
  },
  { name: "width", title: "Width, on its first axis", label: "Width", ...factor },
  { name: "depth", title: "Depth, on its second axis", label: "Depth", ...factor },
  {
    name: "tilt",
    title: "Tilt, leaning out of its plane",
    label: "Tilt",
    unit: "°",
    step: 1,
    still: 0,
    ways: ANGLE,
    start: { from: 0, to: 10 },
  },
];
const SHAPE: Row = {
  name: "shape",
  title: "Shape, the place in the blend",
  label: "Place",
  ...factor,
  still: 0,
  start: { from: 0, to: 1 },
};
const SIZES = [
  ["size", "a factor"],
  ["diameter", "its diameter"],
  ["perimeter", "its perimeter"],
  ["area", "its area"],
] as const;

/** What changes over the true length, each switched off and on without losing what was typed. */
export function AlongStep() {
  const { recipe } = usePartContext();
  const rows = recipe.section.kind === "blend" ? [...ROWS, SHAPE] : ROWS;
  const [twist, ...others] = rows;
  return (
    <Stack spacing={1.25}>
      <Switched row={twist!} />
      <SizeRow />
      {others.map((row) => (
        <Switched key={row.name} row={row} />
      ))}
    </Stack>
  );
}

function Switched({ row }: { row: Row }) {
  const { recipe } = usePartContext();
  const set = useRecipe((state) => state.set);
  const schedule = recipe.along?.[row.name];
  const on = Boolean(schedule && schedule.on !== false);
  return (
    <Stack spacing={1}>
      <FormControlLabel
        label={row.title}
        control={
          <Switch
            size="small"
            checked={on}
            onChange={(_, wanted) =>
              set(`/along/${row.name}`, { ...(schedule ?? row.start), on: wanted })
            }
          />
        }
      />
      {on && (
        <ScheduleFields
          name={row.label}
          place={`/along/${row.name}`}
          unit={row.unit}
          ways={row.ways}
          step={row.step}
          still={row.still}
        />
      )}
    </Stack>
  );
}

/** The size, as a factor, or as the diameter, perimeter or area that the section comes to. */
function SizeRow() {
  const { recipe, unit, part } = usePartContext();
  const change = useRecipe((state) => state.change);
  const along: Along = recipe.along ?? {};
  const names = SIZES.map(([name]) => name);
  const kept = names.find((name) => along[name]) ?? "size";
  const shown = names.find((name) => along[name] && along[name]?.on !== false) ?? null;
  const suffix = { size: "×", diameter: unit, perimeter: unit, area: `${unit}²` } as const;
  const whole = {
    size: 1,
    diameter: 10,
    perimeter: 30,
    area: Number((part.report?.figures.section_area ?? 80).toPrecision(3)),
  };
  const start = (name: (typeof names)[number]) => ({
    from: whole[name],
    to: Number((whole[name] * 0.6).toPrecision(3)),
  });
  const put = (name: (typeof names)[number], on: boolean) =>
    change<Recipe>((old) => {
      const next: Along = { ...old.along };
      for (const other of names) if (other !== name) delete next[other];
      next[name] = { ...(old.along?.[name] ?? start(name)), on } as never;
      return { ...old, along: next };
    });
  return (
    <Stack spacing={1}>
      <FormControlLabel
        label="Size, against the section as typed"
        control={
          <Switch size="small" checked={shown !== null} onChange={(_, on) => put(kept, on)} />
        }
      />
      {shown && (
        <>
          <Choice
            label="Size given as"
            value={shown}
            options={SIZES}
            onChange={(name) => put(name, true)}
          />
          <ScheduleFields
            name={capital(shown)}
            place={`/along/${shown}`}
            unit={suffix[shown]}
            ways={FACTOR}
            step={shown === "size" ? 0.05 : 0.5}
            still={whole[shown]}
          />
        </>
      )}
    </Stack>
  );
}

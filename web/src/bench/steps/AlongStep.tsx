import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import type { Recipe } from "../../api/client";
import { threeDigits } from "../../look/numbers";
import { capital } from "../../look/words";
import { fieldOf } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { ScheduleFields, type Way } from "../forms/ScheduleFields";
import { usePartContext } from "../PartContext";
import { SIZES, sizesNow, type Size } from "./sizes";

type Along = NonNullable<Recipe["along"]>;
type Name = keyof Along;

const ANGLES: readonly Way[] = ["total", "from", "points", "formula"];
const FACTORS: readonly Way[] = ["from", "points", "formula"];

/** What changes over the true length, each switched off and on without losing what was typed. */
export function AlongStep() {
  const { recipe } = usePartContext();
  return (
    <Stack spacing={1.25}>
      <Switched name="twist" step={15} />
      <SizeRow />
      <Switched name="width" />
      <Switched name="depth" />
      <Switched name="tilt" step={1} />
      {recipe.section.kind === "blend" && <Switched name="shape" />}
    </Stack>
  );
}

function Switched({ name, step = 0.05 }: { name: Name; step?: number }) {
  const { recipe } = usePartContext();
  const set = useRecipe((state) => state.set);
  const schedule = recipe.along?.[name];
  const on = Boolean(schedule && schedule.on !== false);
  const field = fieldOf("Along", name);
  const angle = field.properties?.total?.anyOf?.some((one) => one["x-quantity"] === "angle");
  return (
    <Stack spacing={1}>
      <FormControlLabel
        label={field.title}
        control={
          <Switch
            size="small"
            checked={on}
            onChange={(_, wanted) =>
              set(`/along/${name}`, { ...(schedule ?? field["x-start"]), on: wanted })
            }
          />
        }
      />
      {on && (
        <ScheduleFields
          name={capital(name)}
          place={`/along/${name}`}
          unit={angle ? "°" : "×"}
          ways={angle ? ANGLES : FACTORS}
          step={step}
          still={field["x-still"] ?? 0}
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
  const kept = SIZES.find((name) => along[name]) ?? "size";
  const shown = SIZES.find((name) => along[name] && along[name]?.on !== false) ?? null;
  const suffix = { size: "×", diameter: unit, perimeter: unit, area: `${unit}²` } as const;
  const now = sizesNow(part.report, unit);
  const start = (name: Size) => ({ from: now[name], to: threeDigits(now[name] * 0.6) });
  const put = (name: Size, on: boolean) =>
    change<Recipe>((old) => {
      const next: Along = { ...old.along };
      for (const other of SIZES) if (other !== name) delete next[other];
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
            options={SIZES.map((name) => [name, fieldOf("Along", name).title!.toLowerCase()])}
            onChange={(name) => put(name, true)}
          />
          <ScheduleFields
            name={capital(shown)}
            place={`/along/${shown}`}
            unit={suffix[shown]}
            ways={FACTORS}
            step={shown === "size" ? 0.05 : threeDigits(now[shown] / 20)}
            still={now[shown]}
          />
        </>
      )}
    </Stack>
  );
}

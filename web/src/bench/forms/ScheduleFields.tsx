import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { Choice } from "../Choice";
import { ValueField } from "../ValueField";
import { Rows } from "./Rows";
import { threeDigits } from "../../look/numbers";

export type Way = "total" | "from" | "points" | "formula";
export type Schedule = Record<string, unknown>;

const WORDS: Record<Way, string> = {
  total: "evenly, to a total",
  from: "from – to",
  points: "by points",
  formula: "by formula of t",
};
const EASES = [
  ["straight", "straight between"],
  ["smooth", "smooth between"],
] as const;

export function wayOf(schedule: Schedule): Way {
  if (schedule.formula != null) return "formula";
  if (schedule.points != null) return "points";
  return schedule.total != null ? "total" : "from";
}

interface Props {
  name: string;
  /** JSON pointer of the schedule. */
  place: string;
  unit: string;
  ways: readonly Way[];
  step: number;
  /** What the schedule is where nothing changes, in typed units. */
  still: number;
  /** The keys that stay when the way changes. */
  keep?: readonly string[];
}

/** How a value changes along the wire: the way that it is given, and its numbers. */
export function ScheduleFields({ name, place, unit, ways, step, still, keep = ["on"] }: Props) {
  const schedule = (useRecipe((state) => at(state.recipe, place)) ?? {}) as Schedule;
  const set = useRecipe((state) => state.set);
  const way = wayOf(schedule);
  const toWay = (next: Way) => {
    const kept = Object.fromEntries(Object.entries(schedule).filter(([key]) => keep.includes(key)));
    const start = Number(schedule.from ?? still) || 0;
    const end = Number(schedule.to ?? schedule.total ?? still) || 0;
    const fresh: Record<Way, Schedule> = {
      total: { total: end },
      from: { from: start, to: end },
      points: {
        points: [
          [0, start],
          [0.5, (start + end) / 2],
          [1, end],
        ],
        ease: "smooth",
      },
      formula: {
        formula: `${still} + ${unit === "°" ? 10 : threeDigits(still / 5) || 0.2} * sin(2 * pi * t)`,
      },
    };
    set(place, { ...kept, ...fresh[next] });
  };
  return (
    <Stack spacing={1}>
      {ways.length > 1 && (
        <Choice
          label={`${name}, given`}
          value={way}
          options={ways.map((w) => [w, WORDS[w]] as const)}
          onChange={toWay}
        />
      )}
      {way === "total" && (
        <ValueField label={`${name} in all`} place={`${place}/total`} unit={unit} step={step} />
      )}
      {way === "from" && (
        <Stack direction="row" spacing={1}>
          <ValueField
            label={`${name} at the start`}
            place={`${place}/from`}
            unit={unit}
            step={step}
          />
          <ValueField label={`${name} at the end`} place={`${place}/to`} unit={unit} step={step} />
        </Stack>
      )}
      {way === "points" && (
        <>
          <Choice
            label="Between the points"
            value={(schedule.ease as "straight" | "smooth" | undefined) ?? "straight"}
            options={EASES}
            onChange={(ease) => set(`${place}/ease`, ease)}
          />
          <Rows
            title={`${name} points`}
            place={`${place}/points`}
            columns={[
              { label: "at, 0–1", unit: "", step: 0.05 },
              { label: name.toLowerCase(), unit, step },
            ]}
            least={1}
            next={(rows) => {
              const last = Number(rows[rows.length - 1]?.[0] ?? 0);
              return [last < 1 ? (last + 1) / 2 : 1, rows[rows.length - 1]?.[1] ?? still];
            }}
          />
        </>
      )}
      {way === "formula" && (
        <>
          <ValueField label={`${name} as a formula`} place={`${place}/formula`} unit={unit} text />
          <Typography variant="caption" color="text.secondary">
            t goes from 0 to 1 over the length.
          </Typography>
        </>
      )}
    </Stack>
  );
}

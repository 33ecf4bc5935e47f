import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Recipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { typedLength } from "../../look/numbers";
import { at } from "../../state/pointer";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { Group } from "./SectionFields";

type Legs = NonNullable<Recipe["path"]["legs"]>;
type Leg = NonNullable<Legs["start"]>[number];

const SIDES = [
  ["outward", "outward"],
  ["inward", "inward"],
  ["up", "up the axis"],
  ["down", "down the axis"],
] as const;
const FORMS = [
  ["full-loop", "full loop over the axis"],
  ["half-loop", "half loop over the axis"],
  ["side-loop", "full loop at the side"],
] as const;

/** What the wire does beyond one end of its path: straight, arcs, hooks. */
export function LegsFields({ end }: { end: "start" | "end" }) {
  const place = `/path/legs/${end}`;
  const { unit, part } = usePartContext();
  const legs = (useRecipe((state) => at(state.recipe, place)) ?? []) as Leg[];
  const set = useRecipe((state) => state.set);
  const size = typedLength((part.report?.figures.outside_diameter ?? 20) / 4, unit, 2);
  const add = (leg: Leg) => set(place, [...legs, leg]);
  return (
    <Stack spacing={1}>
      <Typography variant="h3" component="h3">
        Legs at the {end}
      </Typography>
      {legs.map((leg, index) => (
        <Group
          key={index}
          title={`${{ straight: "Straight", arc: "Arc", hook: "Hook" }[leg.kind]}, leg ${index + 1}`}
          onRemove={() => {
            const rest = legs.filter((_, i) => i !== index);
            set(place, rest.length ? rest : undefined);
          }}
        >
          {leg.kind === "straight" && (
            <ValueField label="Length" place={`${place}/${index}/length`} unit={unit} step={1} />
          )}
          {leg.kind === "arc" && (
            <>
              <Stack direction="row" spacing={1}>
                <ValueField label="Radius" place={`${place}/${index}/radius`} unit={unit} />
                <ValueField label="Angle" place={`${place}/${index}/angle`} unit="°" step={5} />
              </Stack>
              {typeof leg.side === "number" ? (
                <ValueField
                  label="Towards, from outward to up"
                  place={`${place}/${index}/side`}
                  unit="°"
                  step={5}
                />
              ) : (
                <Choice
                  label="Bends"
                  value={(leg.side ?? "outward") as (typeof SIDES)[number][0]}
                  options={SIDES}
                  onChange={(v) => set(`${place}/${index}/side`, v)}
                />
              )}
            </>
          )}
          {leg.kind === "hook" && (
            <>
              <Choice
                label="Form"
                value={leg.form ?? "full-loop"}
                options={FORMS}
                onChange={(v) => set(`${place}/${index}/form`, v)}
              />
              <Stack direction="row" spacing={1}>
                <ValueField label="Bend" place={`${place}/${index}/bend_radius`} unit={unit} />
                <ValueField label="Reach" place={`${place}/${index}/reach`} unit={unit} optional />
                <ValueField label="Loop" place={`${place}/${index}/radius`} unit={unit} optional />
              </Stack>
            </>
          )}
        </Group>
      ))}
      <Stack direction="row" spacing={0.5}>
        <Button variant="text" onClick={() => add({ kind: "straight", length: 2 * size })}>
          Add straight
        </Button>
        <Button
          variant="text"
          onClick={() => add({ kind: "arc", radius: size, angle: 90, side: "outward" })}
        >
          Add arc
        </Button>
        {legs.length === 0 && (
          <Button variant="text" onClick={() => add({ kind: "hook", bend_radius: size })}>
            Add hook
          </Button>
        )}
      </Stack>
    </Stack>
  );
}

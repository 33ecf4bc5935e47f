import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Recipe } from "../../api/client";
import { kindName, kindsAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { typedLength } from "../../look/numbers";
import { at } from "../../state/pointer";
import { usePartContext } from "../PartContext";
import { KindButton, KindFields } from "./KindFields";
import { Group } from "./SectionFields";
import { capital } from "../../look/words";

type Legs = NonNullable<Recipe["path"]["legs"]>;
type Leg = NonNullable<Legs["start"]>[number];

/** What the wire does beyond one end of its path: straight, arcs, hooks. */
export function LegsFields({ end }: { end: "start" | "end" }) {
  const place = `/path/legs/${end}`;
  const { recipe, unit, part } = usePartContext();
  const legs = (useRecipe((state) => at(state.recipe, place)) ?? []) as Leg[];
  const set = useRecipe((state) => state.set);
  const size = typedLength((part.report?.figures.outside_diameter ?? 20) / 4, unit, 2);
  const kinds = kindsAt(recipe, `${place}/0`);
  const titles = Object.fromEntries(kinds);
  return (
    <Stack spacing={1}>
      <Typography variant="h3" component="h3">
        Legs at the {end}
      </Typography>
      {legs.map((leg, index) => (
        <Group
          key={index}
          title={`${capital(titles[leg.kind]!)}, leg ${index + 1}`}
          onRemove={() => {
            const rest = legs.filter((_, i) => i !== index);
            set(place, rest.length ? rest : undefined);
          }}
        >
          <KindFields place={`${place}/${index}`} />
        </Group>
      ))}
      <Stack direction="row" spacing={0.5}>
        {kinds
          .filter(([kind]) => kind !== "hook" || legs.length === 0)
          .map(([kind, title]) => (
            <KindButton
              key={kind}
              name={kindName(recipe, `${place}/0`, kind)}
              size={size}
              onNew={(leg) => set(place, [...legs, leg])}
            >
              Add {title}
            </KindButton>
          ))}
      </Stack>
    </Stack>
  );
}

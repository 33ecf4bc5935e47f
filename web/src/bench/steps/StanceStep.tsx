import FormControl from "@mui/material/FormControl";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { MM, threeDigits } from "../../look/numbers";
import { kindAt, kindsAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { ChoiceField, KindTrouble, useKind } from "../forms/KindFields";
import { PathFields, ProfileFields } from "../forms/PathFields";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

/** How the section stands while it travels; a few sections are drawn along the path meanwhile. */
export function StanceStep() {
  const { recipe, part, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const usually = kindAt(recipe, "/path", recipe.path.kind)["x-stance"] === "steady";
  const size = (part.report?.figures.outside_diameter ?? 20) / MM[unit];
  const { kind, take, trouble } = useKind(
    "/stance",
    size,
    recipe.stance?.kind ?? (usually ? "steady" : "outward"),
    (fresh, next) => {
      const own = recipe.path.kind === "wrap" && next === "seated";
      set("/stance", own ? { kind: next } : fresh);
    },
  );
  return (
    <Stack spacing={1}>
      <FormControl>
        <RadioGroup
          aria-label="Stance"
          value={kind}
          onChange={(event) => void take(event.target.value)}
        >
          {kindsAt(recipe, "/stance").map(([name, text]) => (
            <FormControlLabel
              key={name}
              value={name}
              control={<Radio size="small" sx={{ py: 0.25 }} />}
              label={
                <Typography component="span" variant="body2">
                  <strong>{name}</strong>: {text}
                </Typography>
              }
            />
          ))}
        </RadioGroup>
      </FormControl>
      {trouble && <KindTrouble />}
      {recipe.stance?.kind === "aimed" && (
        <Stack spacing={1.25} sx={{ borderLeft: 2, borderColor: "divider", pl: 1 }}>
          <ChoiceField place="/stance/stretch" />
          <PathFields place="/stance/curve" label="Aimed at" size={size * 1.4} />
        </Stack>
      )}
      {recipe.stance?.kind === "seated" && recipe.stance.body && (
        <Stack spacing={1.25} sx={{ borderLeft: 2, borderColor: "divider", pl: 1 }}>
          <Choice
            label="Seated on"
            value={recipe.stance.body.profile ? "profile" : "cylinder"}
            options={[
              ["cylinder", "a cylinder"],
              ["profile", "a turned body"],
            ]}
            onChange={(v) =>
              set(
                "/stance/body",
                v === "cylinder"
                  ? { diameter: threeDigits(size / 2) }
                  : {
                      profile: [
                        [size / 4, 0],
                        [size / 3, size],
                      ],
                      ease: "straight",
                    },
              )
            }
          />
          {recipe.stance.body.profile ? (
            <ProfileFields place="/stance/body" size={size} />
          ) : (
            <ValueField
              label="Diameter of the cylinder"
              place="/stance/body/diameter"
              optional={false}
            />
          )}
        </Stack>
      )}
      <Typography variant="caption" color="text.secondary">
        The sections drawn along the path show the choice before the solid is made.
      </Typography>
    </Stack>
  );
}

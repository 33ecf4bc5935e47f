import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { MM } from "../../look/numbers";
import { kindName, kindsAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { focusSoon } from "../focus";
import { usePartContext } from "../PartContext";
import { KindButton } from "../forms/KindFields";

export function NoLoad() {
  const { part, recipe, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const height = (part.report?.figures.overall_height ?? 0) / MM[unit];
  const wire = recipe.material === "stainless-steel" ? "EN 10270-3 1.4310 NS" : "EN 10270-1 SH";
  return (
    <Stack spacing={1.5}>
      <Typography variant="body2">
        Say that this coil is a spring, and its forces, stresses and limits are worked out as you
        draw.
      </Typography>
      {kindsAt(recipe, "/spring").map(([kind, title], index) => (
        <KindButton
          key={kind}
          name={kindName(recipe, "/spring", kind)}
          size={height || 20}
          variant={index === 0 ? "contained" : "outlined"}
          onNew={(fresh) => {
            set("/spring", { ...fresh, wire });
            focusSoon("#step-load-body input, #step-load-body [role=combobox]");
          }}
        >
          It is {/^[aeiou]/.test(title) ? "an" : "a"} {title} spring
        </KindButton>
      ))}
    </Stack>
  );
}

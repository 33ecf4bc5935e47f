import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRecipe } from "../../state/bench";
import { UnitChoice } from "../forms/UnitChoice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { ReferenceBodies } from "./ReferenceBodies";
import { Variables } from "./Variables";

/** The space, the mating parts and the unit. */
export function FitStep() {
  const { recipe } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <Stack spacing={1.5}>
      <UnitChoice />
      <Stack direction="row" spacing={1}>
        <ValueField place="/fit/bore" />
        <ValueField place="/fit/rod" />
      </Stack>
      <Stack direction="row" spacing={1}>
        <ValueField place="/fit/length" />
        <ValueField place="/fit/gap" />
      </Stack>
      <ReferenceBodies />
      <TextField
        label="Note"
        multiline
        maxRows={4}
        value={recipe.note ?? ""}
        onChange={(event) => set("/note", event.target.value)}
      />
      <Typography variant="caption" color="text.secondary">
        Any field takes a formula and its own unit: 3/8 in, 8 * wire, bore − 2 mm.
      </Typography>
      <Variables />
    </Stack>
  );
}

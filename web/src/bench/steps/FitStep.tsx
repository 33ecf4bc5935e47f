import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Recipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

export const UNITS = [
  ["mm", "millimetres"],
  ["cm", "centimetres"],
  ["m", "metres"],
  ["in", "inches"],
] as const;

export const MATERIALS = [
  ["spring-steel", "Spring steel"],
  ["stainless-steel", "Stainless steel"],
  ["brass", "Brass"],
  ["phosphor-bronze", "Phosphor bronze"],
  ["copper", "Copper"],
  ["aluminium", "Aluminium"],
  ["titanium", "Titanium"],
  ["polyamide", "Polyamide 12"],
  ["polylactide", "Polylactide"],
  ["oak", "Oak"],
] as const;

/** The space, the mating parts, the unit and the material. */
export function FitStep() {
  const { recipe, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <Stack spacing={1.5}>
      <Stack direction="row" spacing={1}>
        <Choice label="Unit" value={unit} options={UNITS} onChange={(v) => set("/unit", v)} />
        <Choice
          label="Material"
          value={recipe.material ?? "spring-steel"}
          options={MATERIALS}
          onChange={(v) => set("/material", v)}
        />
      </Stack>
      <Stack direction="row" spacing={1}>
        <ValueField label="Bore around it" place="/fit/bore" unit={unit} optional />
        <ValueField label="Rod inside it" place="/fit/rod" unit={unit} optional />
      </Stack>
      <Stack direction="row" spacing={1}>
        <ValueField label="Length" place="/fit/length" unit={unit} optional />
        <ValueField label="Air to keep" place="/fit/gap" unit={unit} optional />
      </Stack>
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
      <VariablesTable />
    </Stack>
  );
}

function VariablesTable() {
  const { recipe, part } = usePartContext();
  const change = useRecipe((state) => state.change);
  const names = Object.keys(recipe.variables ?? {});
  const fault = part.problems.find((p) => p.place === "/variables");
  return (
    <Stack spacing={1}>
      {names.length > 0 && (
        <Typography variant="h3" component="h3">
          Variables
        </Typography>
      )}
      {names.map((name) => (
        <Stack key={name} direction="row" spacing={1}>
          <ValueField label={name} place={`/variables/${name}`} />
          <button
            type="button"
            className="plain-action"
            onClick={() =>
              change<Recipe>((old) => {
                const rest = { ...old.variables };
                delete rest[name];
                return { ...old, variables: rest };
              })
            }
            aria-label={`Remove variable ${name}`}
          >
            remove
          </button>
        </Stack>
      ))}
      <TextField
        label="New variable"
        placeholder="its name, then Enter"
        error={Boolean(fault)}
        helperText={fault ? `${fault.reason}; ${fault.remedy}` : undefined}
        onKeyDown={(event) => {
          const field = event.target as HTMLInputElement;
          const name = field.value.trim();
          if (event.key !== "Enter" || !/^[A-Za-z_][A-Za-z0-9_]{0,40}$/.test(name)) return;
          change((old) => ({ ...old, variables: { [name]: 1, ...old.variables } }));
          field.value = "";
        }}
      />
    </Stack>
  );
}

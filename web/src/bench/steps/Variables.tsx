import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type AnyRecipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { useBench } from "../PartContext";
import { ValueField } from "../ValueField";

const NAME = /^[A-Za-z_][A-Za-z0-9_]{0,40}$/;

/** The variables of a recipe: name, formula, what it comes to, and where it is used. */
export function Variables() {
  const { recipe, part } = useBench();
  const change = useRecipe((state) => state.change);
  const names = Object.keys(recipe.variables ?? {});
  const fault = part.problems.find((p) => p.place === "/variables");
  return (
    <Stack spacing={1.25} component="section" aria-label="Variables">
      {names.length > 0 && (
        <Typography variant="h3" component="h3">
          Variables
        </Typography>
      )}
      {names.map((name) => (
        <Variable key={name} name={name} />
      ))}
      <TextField
        label="New variable"
        placeholder="its name, then Enter"
        error={Boolean(fault)}
        helperText={fault ? `${fault.reason}; ${fault.remedy}` : undefined}
        onKeyDown={(event) => {
          const field = event.target as HTMLInputElement;
          const name = field.value.trim();
          if (event.key !== "Enter" || !NAME.test(name)) return;
          change((old) => ({ ...old, variables: { [name]: 1, ...old.variables } }));
          field.value = "";
        }}
      />
    </Stack>
  );
}

function Variable({ name }: { name: string }) {
  const { recipe, part } = useBench();
  const change = useRecipe((state) => state.change);
  const [draft, setDraft] = useState(name);
  const rename = useMutation({
    mutationFn: (wanted: string) =>
      answer(
        client.POST("/api/parts/rename", {
          body: { recipe: recipe as unknown as Record<string, never>, old: name, new: wanted },
        }),
      ),
    onSuccess: (changed) => change(() => changed as unknown as AnyRecipe),
  });
  const keep = () => {
    const wanted = draft.trim();
    if (wanted !== name && NAME.test(wanted)) rename.mutate(wanted);
    else setDraft(name);
  };
  const used = part.report?.variables.find((variable) => variable.name === name)?.used ?? [];
  const remove = () =>
    change((old) => {
      const rest: Record<string, unknown> = { ...old.variables };
      delete rest[name];
      return { ...old, variables: rest } as typeof old;
    });
  return (
    <Box>
      <Stack direction="row" spacing={0.5} sx={{ alignItems: "flex-start" }}>
        <TextField
          label="Name"
          value={draft}
          error={rename.isError}
          helperText={rename.error?.message}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => {
            if (event.key === "Enter") keep();
            if (event.key === "Escape") setDraft(name);
          }}
          slotProps={{ htmlInput: { "aria-label": `Name of the variable ${name}` } }}
          sx={{ width: 118, flex: "none" }}
        />
        <ValueField label="Formula" name={name} place={`/variables/${name}`} />
        <button
          type="button"
          className="plain-action"
          onClick={remove}
          aria-label={`Remove variable ${name}`}
          title="Remove"
        >
          ✕
        </button>
      </Stack>
      <Typography variant="caption" color="text.secondary">
        {used.length ? `used in ${used.join(", ")}` : "not used"}
      </Typography>
    </Box>
  );
}

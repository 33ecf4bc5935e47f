import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, Refusal, type SavedForm, type ThreadRecipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { useThreadContext } from "../PartContext";
import { KeptRow } from "./KeptRow";

/** Forms of one's own that are kept for other designs: taken, kept under a name, taken out. */
export function SavedForms() {
  const { recipe, unit } = useThreadContext();
  const change = useRecipe((state) => state.change);
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const { data } = useQuery({
    queryKey: ["forms"],
    queryFn: () => answer(client.GET("/api/library/forms")),
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ["forms"] });
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/library/forms", {
          body: { name, unit, thread: recipe.thread as unknown as Record<string, never> },
        }),
      ),
    onSuccess: () => {
      setName("");
      void refresh();
    },
  });
  const takeOut = useMutation({
    mutationFn: (form: SavedForm) =>
      answer(
        client.DELETE("/api/library/forms/{form_id}", { params: { path: { form_id: form.id } } }),
      ),
    onSuccess: refresh,
  });
  const take = (form: SavedForm) =>
    change<ThreadRecipe>((old) => {
      const rest = { ...old.thread };
      for (const key of ["designation", "form", "diameter", "pitch", "starts"] as const) {
        delete rest[key];
      }
      return { ...old, thread: { ...rest, ...inUnit(form, unit) } };
    });
  const problem = keep.error instanceof Refusal ? keep.error.problems[0] : undefined;
  return (
    <Stack spacing={0.75} component="section" aria-label="Library of forms">
      <Typography variant="h3" component="h3">
        Library
      </Typography>
      {data?.map((form) => (
        <KeptRow
          key={form.id}
          onTake={() => take(form)}
          out={`Take ${form.name} out of the library`}
          title="Take out of the library"
          onOut={() => takeOut.mutate(form)}
        >
          {form.name}
        </KeptRow>
      ))}
      <Stack direction="row" spacing={1}>
        <TextField
          label="Keep this form as"
          value={name}
          fullWidth
          error={Boolean(problem)}
          helperText={problem ? `${problem.reason}; ${problem.remedy}` : undefined}
          onChange={(event) => setName(event.target.value)}
        />
        <Button
          variant="outlined"
          disabled={!name.trim() || keep.isPending}
          onClick={() => keep.mutate()}
          sx={{ flex: "none" }}
        >
          Keep
        </Button>
      </Stack>
    </Stack>
  );
}

/** The kept keys in the unit of the design: plain numbers are written with the unit that they were kept in. */
function inUnit(form: SavedForm, unit: keyof typeof MM): Record<string, unknown> {
  if (form.unit === unit) return form.thread;
  const lengths = new Set([
    "height",
    "crest",
    "crest_radius",
    "root_radius",
    "diameter",
    "pitch",
    "points",
  ]);
  const convert = (value: unknown, isLength: boolean): unknown => {
    if (typeof value === "number") return isLength ? `${value} ${form.unit}` : value;
    if (Array.isArray(value)) return value.map((item) => convert(item, isLength));
    if (value && typeof value === "object") {
      return Object.fromEntries(
        Object.entries(value).map(([key, item]) => [key, convert(item, lengths.has(key))]),
      );
    }
    return value;
  };
  return convert(form.thread, false) as Record<string, unknown>;
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Design, type Found } from "../api/client";
import { digits, shown, type LengthUnit } from "../look/numbers";
import { VerdictLabel, type VerdictWord } from "../look/Verdict";
import { put } from "../state/pointer";
import { pointAt } from "./found";
import { DataTable } from "../look/DataTable";

/** One point of a survey: its values, verdict and figures; they are taken with one press. */
export function Picked(props: { design: Design; found: Found; point: number; unit: LengthUnit }) {
  const { design, found, point, unit } = props;
  const navigate = useNavigate();
  const values = pointAt(found, point);
  const verdict = found.verdicts[point] as VerdictWord;
  const take = useMutation({
    mutationFn: () => {
      const recipe = found.inputs.reduce(
        (so, input, k) => put(so, input.place, values[k]!),
        design.recipe,
      );
      return answer(
        client.PUT("/api/designs/{design_id}", {
          params: { path: { design_id: design.id } },
          body: { recipe: recipe as Record<string, never>, based_on: design.revision },
        }),
      );
    },
    onSuccess: () => navigate(`/designs/${design.id}`),
  });
  return (
    <Stack spacing={1.25}>
      <VerdictLabel verdict={verdict} big />
      {found.inputs.map((input, k) => (
        <Typography key={input.place}>
          {input.words}{" "}
          <strong>
            {digits(values[k]!, 6)} {input.unit}
          </strong>
        </Typography>
      ))}
      {found.reasons[point] && <Typography variant="body2">{found.reasons[point]}</Typography>}
      <Button
        variant="contained"
        disabled={take.isPending || verdict === "unusable"}
        onClick={() => take.mutate()}
      >
        Take these values
      </Button>
      {take.error && (
        <Typography variant="body2" role="alert">
          {take.error.message}
        </Typography>
      )}
      <DataTable
        label="Figures at this point"
        quiet={[2]}
        rows={Object.entries(found.figures).flatMap(([name, column]) => {
          const value = column.values[point] ?? null;
          if (value === null) return [];
          const told = shown(value, column.unit, unit);
          return [{ key: name, cells: [column.title, told.number, told.unit] }];
        })}
      />
      {Object.entries(found.checks)
        .filter(([, column]) => column.verdicts[point] && column.verdicts[point] !== "clear")
        .map(([name, column]) => (
          <Stack key={name} direction="row" spacing={1}>
            <VerdictLabel verdict={column.verdicts[point] as VerdictWord} />
            <Typography variant="body2">{column.title}</Typography>
          </Stack>
        ))}
    </Stack>
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { lengthText, MM, typedLength, typedValue } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { useThreadContext } from "../PartContext";
import { KeptRow } from "./KeptRow";

type Fit = Schemas["FitOut"];

/** Allowances that were found by printing a fit ladder: taken, kept for a printer and the part's material, taken out. */
export function PrintedFits() {
  const { recipe, unit } = useThreadContext();
  const set = useRecipe((state) => state.set);
  const queries = useQueryClient();
  const [printer, setPrinter] = useState("");
  const [fitting, setFitting] = useState("");
  const { data } = useQuery({
    queryKey: ["fits"],
    queryFn: () => answer(client.GET("/api/library/fits")),
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ["fits"] });
  const material = typeof recipe.material === "object" ? recipe.material.name : recipe.material;
  const typed = typedValue(fitting.trim());
  const allowance = typeof typed === "number" ? typed * MM[unit] : Number.NaN;
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/library/fits", {
          body: { printer, material: material ?? "spring-steel", allowance },
        }),
      ),
    onSuccess: () => {
      setPrinter("");
      setFitting("");
      void refresh();
    },
  });
  const takeOut = useMutation({
    mutationFn: (fit: Fit) =>
      answer(client.DELETE("/api/library/fits/{fit_id}", { params: { path: { fit_id: fit.id } } })),
    onSuccess: refresh,
  });
  const problem = keep.error instanceof Refusal ? keep.error.problems[0] : undefined;
  return (
    <Stack spacing={0.75} component="section" aria-label="Fits that were printed">
      {Boolean(data?.length) && (
        <Typography variant="h3" component="h3">
          Fits that were printed
        </Typography>
      )}
      {data?.map((fit) => (
        <KeptRow
          key={fit.id}
          onTake={() => set("/thread/allowance", typedLength(fit.allowance, unit, 4))}
          out={`Take the fit of ${fit.printer} out`}
          title="Take out"
          onOut={() => takeOut.mutate(fit)}
        >
          {lengthText(fit.allowance, unit)}, {fit.printer}, {fit.material}
        </KeptRow>
      ))}
      {recipe.ladder && (
        <Stack direction="row" spacing={1} sx={{ alignItems: "flex-start" }}>
          <TextField
            label="Which step fits"
            value={fitting}
            onChange={(event) => setFitting(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
            placeholder={unit}
            sx={{ width: 104, flex: "none" }}
          />
          <TextField
            label="On which printer"
            value={printer}
            fullWidth
            error={Boolean(problem)}
            helperText={problem ? `${problem.reason}; ${problem.remedy}` : undefined}
            onChange={(event) => setPrinter(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <Button
            variant="outlined"
            disabled={!printer.trim() || !(allowance >= 0) || keep.isPending}
            onClick={() => keep.mutate()}
            sx={{ flex: "none" }}
          >
            Keep
          </Button>
        </Stack>
      )}
    </Stack>
  );
}

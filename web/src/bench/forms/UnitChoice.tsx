import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type AnyRecipe } from "../../api/client";
import type { LengthUnit } from "../../look/numbers";
import { choicesOf, specAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { useBench } from "../PartContext";

/** The design's unit of length; asks whether its numbers are to be converted. */
export function UnitChoice() {
  const { recipe } = useBench();
  const { set, change } = useRecipe.getState();
  const [next, setNext] = useState<LengthUnit | null>(null);
  const field = specAt(recipe, "/unit");
  const units = choicesOf(field) as [LengthUnit, string][];
  const now = recipe.unit ?? "mm";
  const convert = useMutation({
    mutationFn: (unit: LengthUnit) =>
      answer(
        client.POST("/api/parts/converted", { params: { query: { unit } }, body: recipe }),
      ) as Promise<unknown>,
    onSuccess: (converted) => {
      change(() => converted as AnyRecipe);
      setNext(null);
    },
  });
  const close = () => {
    convert.reset();
    setNext(null);
  };
  return (
    <>
      <Choice
        label={field.title ?? "Unit"}
        value={now}
        options={units}
        onChange={(unit) => unit !== now && setNext(unit)}
      />
      <Dialog open={next !== null} onClose={close} aria-labelledby="unit-title">
        <DialogTitle id="unit-title">
          From {now} to {next}: what about the numbers?
        </DialogTitle>
        <DialogContent>
          Converted, the part stays as it is: 24 {now} are written in {next}. Kept, 24 {now} become
          24 {next}, and the part changes its size.
          {convert.error && <p role="alert">{convert.error.message}.</p>}
        </DialogContent>
        <DialogActions>
          <Button variant="text" onClick={close}>
            Cancel
          </Button>
          <Button
            onClick={() => {
              set("/unit", next);
              close();
            }}
          >
            Keep the numbers
          </Button>
          <Button
            variant="contained"
            autoFocus
            disabled={convert.isPending}
            onClick={() => next && convert.mutate(next)}
          >
            Convert the numbers
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

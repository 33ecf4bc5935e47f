import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type Spring } from "../../api/client";
import { digits, told } from "../../look/numbers";
import { usePartContext } from "../PartContext";
import { DataTable } from "../../look/DataTable";

/** Rate and stress by beams along the wire, or by the elastica of a strip, beside the closed sums. */
export function Beams({ spring }: { spring: Spring }) {
  const { recipe, unit } = usePartContext();
  const compare = useMutation({
    mutationFn: () => answer(client.POST("/api/springs/beams", { body: recipe })),
  });
  const { reset } = compare;
  useEffect(reset, [recipe, reset]);
  const found = compare.data;
  const row = (name: string, beams: number, sums: number, its: string) => ({
    key: name,
    cells: [
      name,
      told(beams, its, unit),
      told(sums, its, unit),
      `${digits(100 * (beams / sums - 1), 2)} %`,
    ],
  });
  return (
    <Stack spacing={0.5} component="section" aria-label="Beam model">
      <Button variant="outlined" disabled={compare.isPending} onClick={() => compare.mutate()}>
        Compare with {spring.kind === "spiral" ? "the elastica" : "a beam model"}
      </Button>
      {compare.error && (
        <Typography variant="body2" role="alert">
          {compare.error.message}.
        </Typography>
      )}
      {found && (
        <>
          <DataTable
            heads={
              spring.kind === "spiral"
                ? ["wound a little", "elastica", "sums", ""]
                : ["all turns open", "beams", "sums", ""]
            }
            strong={1}
            rows={[
              row("Rate", found.rate, found.closed_rate, found.units[1]!),
              row(`Stress under 1 ${found.units[0]}`, found.stress, found.closed_stress, "MPa"),
            ]}
          />
          <Typography variant="caption" color="text.secondary">
            {found.why}.
          </Typography>
        </>
      )}
    </Stack>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type Spring } from "../../api/client";
import { digits, told } from "../../look/numbers";
import { usePartContext } from "../PartContext";

/** Rate and stress by beams along the wire, or by the elastica of a strip, beside the closed sums. */
export function Beams({ spring }: { spring: Spring }) {
  const { recipe, unit } = usePartContext();
  const compare = useMutation({
    mutationFn: () => answer(client.POST("/api/springs/beams", { body: recipe })),
  });
  const { reset } = compare;
  useEffect(reset, [recipe, reset]);
  const found = compare.data;
  const row = (name: string, beams: number, sums: number, its: string) => (
    <tr>
      <td>{name}</td>
      <Box component="td" sx={{ textAlign: "right", fontWeight: 600 }}>
        {told(beams, its, unit)}
      </Box>
      <Box component="td" sx={{ textAlign: "right", pl: 1 }}>
        {told(sums, its, unit)}
      </Box>
      <Box component="td" sx={{ textAlign: "right", pl: 1 }}>
        {digits(100 * (beams / sums - 1), 2)} %
      </Box>
    </tr>
  );
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
          <Box component="table" sx={{ fontSize: "0.82rem", fontVariantNumeric: "tabular-nums" }}>
            <thead>
              <tr>
                <td>{spring.kind === "spiral" ? "wound a little" : "all turns open"}</td>
                <Box component="td" sx={{ textAlign: "right" }}>
                  {spring.kind === "spiral" ? "elastica" : "beams"}
                </Box>
                <Box component="td" sx={{ textAlign: "right" }}>
                  sums
                </Box>
                <td />
              </tr>
            </thead>
            <tbody>
              {row("Rate", found.rate, found.closed_rate, found.units[1]!)}
              {row(`Stress under 1 ${found.units[0]}`, found.stress, found.closed_stress, "MPa")}
            </tbody>
          </Box>
          <Typography variant="caption" color="text.secondary">
            {found.why}.
          </Typography>
        </>
      )}
    </Stack>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { keepFile } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { useTold } from "../PartContext";

/** The files that the part becomes at once, a row for what stands together: all of them, or those of one `what`. */
export function MadeFiles({ what }: { what?: string }) {
  const part = useTold();
  const keep = useMutation({
    mutationFn: (key: string) => keepFile(key, useRecipe.getState().recipe!),
  });
  const made = (part.report?.outputs ?? []).filter((one) => !one.built);
  const rows = [...new Set(made.map((one) => one.what))].filter((one) => !what || one === what);
  return (
    <Stack spacing={1}>
      {rows.map((row) => {
        const files = made.filter((one) => one.what === row);
        const misfit = files[0]?.misfit;
        return (
          <Stack key={row} direction="row" spacing={1} sx={{ alignItems: "center" }}>
            <Box sx={{ flex: 1 }}>
              <Typography variant="h3" color={misfit ? "text.secondary" : undefined}>
                {row}
              </Typography>
              {misfit && (
                <Typography variant="caption" color="text.secondary" component="p">
                  {misfit.reason}
                </Typography>
              )}
            </Box>
            {!misfit &&
              files.map((file) => (
                <Button
                  key={file.key}
                  variant="outlined"
                  disabled={keep.isPending}
                  onClick={() => keep.mutate(file.key)}
                  aria-label={`${row} as ${file.title}`}
                >
                  {file.title}
                </Button>
              ))}
          </Stack>
        );
      })}
      {keep.error && (
        <Typography variant="body2" color="error" role="alert">
          {keep.error.message}
        </Typography>
      )}
    </Stack>
  );
}

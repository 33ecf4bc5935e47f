import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Comparison } from "../api/client";

/** What was changed, in words. */
export function Changes({ found }: { found: Comparison }) {
  return (
    <>
      <Typography variant="h2">Recipe</Typography>
      {found.changes.length === 0 ? (
        <Typography variant="body2">Both recipes are the same.</Typography>
      ) : (
        <Stack component="ul" spacing={0.5} sx={{ listStyle: "none", p: 0, m: 0 }}>
          {found.changes.map((change) => (
            <Typography key={change.place} component="li" variant="body2" title={change.place}>
              {change.words}
            </Typography>
          ))}
        </Stack>
      )}
      {found.problems.map((problem) => (
        <Typography key={problem.place} variant="body2" color="error">
          {problem.place}: {problem.reason}
        </Typography>
      ))}
    </>
  );
}

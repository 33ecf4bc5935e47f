import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Followed } from "../api/jobs";

interface Props {
  what: string;
  work: Followed;
  /** What else is wrong. */
  trouble?: string | undefined;
}

/** How far long work is, with a way to stop it; that it was stopped; or what went wrong. */
export function JobStatus({ what, work, trouble }: Props) {
  const { job, running } = work;
  const wrong = trouble ?? work.trouble;
  return (
    <>
      {running && (
        <Stack direction="row" spacing={1} sx={{ alignItems: "center" }} role="status">
          <Box sx={{ flex: 1 }}>
            <LinearProgress
              variant="determinate"
              value={100 * (job?.progress ?? 0)}
              aria-label={`Progress of the ${what}`}
            />
            <Typography variant="caption">
              {job?.step ?? "waiting"}, {Math.round(100 * (job?.progress ?? 0))} %
            </Typography>
          </Box>
          {work.stop && (
            <Button variant="outlined" onClick={work.stop}>
              Stop
            </Button>
          )}
        </Stack>
      )}
      {job?.state === "cancelled" && (
        <Typography variant="body2" role="status">
          Stopped. Nothing was kept.
        </Typography>
      )}
      {wrong && (
        <Typography variant="body2" color="error" role="alert" sx={{ whiteSpace: "pre-line" }}>
          {wrong}
        </Typography>
      )}
    </>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Job } from "../api/jobs";

interface Props {
  what: string;
  job: Job | undefined;
  running: boolean;
  trouble: string | undefined;
  onStop: (id: string) => void;
}

/** How far a job is, with a way to stop it; that it was stopped; or what went wrong. */
export function JobStatus({ what, job, running, trouble, onStop }: Props) {
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
            <Typography variant="caption">{job?.step ?? "waiting"}</Typography>
          </Box>
          {job && (
            <Button variant="outlined" onClick={() => onStop(job.id)}>
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
      {trouble && (
        <Typography variant="body2" color="error" role="alert" sx={{ whiteSpace: "pre-line" }}>
          {trouble}
        </Typography>
      )}
    </>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { SCAN_FILES, newDesign, startTrace, traceSample, type Traced } from "../api/client";
import { useFollowed } from "../api/jobs";
import { JobStatus } from "../beside/JobStatus";
import { FileButton } from "../bench/forms/FileButton";
import { withScan } from "../bench/scan";
import { digits } from "../look/numbers";
import { capital } from "../look/words";
import { DataTable } from "../look/DataTable";

/** A design out of a scanned body: what was measured on it, how sure that is, and two ways to take it. */
export function TracedBody() {
  const navigate = useNavigate();
  const [id, setId] = useState<string | null>(null);
  const work = useFollowed("trace", id);
  const found = work.job?.found ?? null;
  const [trouble, setTrouble] = useState("");
  const told = useRef<HTMLElement>(null);
  useEffect(() => {
    if (found) told.current?.scrollIntoView({ block: "nearest" });
  }, [found]);
  const sample = useMutation({ mutationFn: traceSample, onSuccess: (job) => setId(job.id) });
  const take = async (recipe: Traced["recipe"]) => {
    try {
      const design = await newDesign(recipe);
      await navigate(withScan(design.id, id!, recipe === found?.rounded));
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Stack spacing={1} sx={{ flexBasis: id ? "100%" : "auto" }}>
      <Stack direction="row" sx={{ alignItems: "flex-start", gap: 1 }}>
        <FileButton
          label="Trace a scanned body"
          accept={SCAN_FILES}
          read={(file, unit) => {
            setId(null);
            return startTrace(file, unit);
          }}
          onRead={(job) => setId(job.id)}
        />
        <Button variant="text" disabled={sample.isPending} onClick={() => sample.mutate()}>
          or a made-up scan
        </Button>
      </Stack>
      {sample.error && (
        <Typography role="alert" variant="body2" color="error">
          {sample.error.message}.
        </Typography>
      )}
      <JobStatus what="trace" work={work} />
      {found && (
        <Box
          ref={told}
          component="section"
          aria-label="What was traced"
          sx={{ border: 1, borderColor: "divider", bgcolor: "background.paper", p: 2 }}
        >
          <Typography variant="h3" sx={{ mb: 1 }}>
            {TITLES[found.kind]}
          </Typography>
          <Stack direction="row" useFlexGap sx={{ gap: 4, flexWrap: "wrap" }}>
            <Box sx={{ width: 380 }}>
              <Readings found={found} />
            </Box>
            {isNamed(found) && <Designations found={found} />}
          </Stack>
          {[
            off("As measured", found.deviation),
            off("Rounded", found.rounded_deviation),
            ...found.told,
          ].map(
            (words) =>
              words && (
                <Typography key={words} variant="body2" color="text.secondary" sx={{ mt: 1 }}>
                  {capital(words)}.
                </Typography>
              ),
          )}
          <Stack direction="row" spacing={1} sx={{ mt: 1.5 }}>
            <Button variant="contained" onClick={() => void take(found.rounded)}>
              {takes(found)}
            </Button>
            {!isNamed(found) && (
              <Button variant="outlined" onClick={() => void take(found.recipe)}>
                Take them as measured
              </Button>
            )}
          </Stack>
          {trouble && (
            <Typography role="alert" variant="body2" color="error">
              {trouble}
            </Typography>
          )}
        </Box>
      )}
    </Stack>
  );
}

const TITLES: Record<Traced["kind"], string> = {
  coil: "A coil",
  thread: "A thread",
  bar: "A bar",
  winding: "A coil around a curve",
};

function takes(found: Traced): string {
  return isNamed(found) ? "Take the first of them" : "Take the rounded numbers";
}

/** Whether it is a standard thread, of which nothing is rounded. */
const isNamed = (found: Traced) => found.designations.length > 0;

function off(words: string, deviation: Traced["deviation"]): string {
  if (!deviation) return "";
  const { mean, p95, max } = deviation;
  const [average, most, worst] = [mean, p95, max].map((one) => digits(one, 4));
  return `${words}, the surface is ${average} mm off on average, ${most} mm at 95 % of it, ${worst} mm at the most`;
}

/** Numbers, each with its interval. */
function Readings({ found }: { found: Traced }) {
  return (
    <DataTable
      label="Measured"
      strong={1}
      quiet={[2]}
      rows={found.figures.map((one) => ({
        key: one.key,
        cells: [
          one.title,
          digits(one.value, 5),
          one.sure > 0 ? `± ${digits(one.sure, 4)} ${one.unit}` : one.unit,
        ],
      }))}
    />
  );
}

/** The standard threads that it may be. */
function Designations({ found }: { found: Traced }) {
  return (
    <DataTable
      label="Standard threads"
      heads={["Thread", "Probable", "Surface off", "Pitch off", "Diameter off"]}
      rows={found.designations.map((one) => ({
        key: one.designation,
        cells: [
          one.designation,
          `${digits(100 * one.probable, 3)} %`,
          `${digits(one.off, 3)} mm`,
          `${digits(one.pitch_off, 3)} mm`,
          `${digits(one.diameter_off, 3)} mm`,
        ],
      }))}
    />
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { answer, check, client, keepFile, type AnyRecipe, type Design } from "../api/client";
import { fileOf, startBuild, useBuilds, useLongWork } from "../api/jobs";
import { BesideBench, DesignPage } from "../beside/BesideBench";
import { JobStatus } from "../beside/JobStatus";
import { DataTable } from "../look/DataTable";
import { sizeText } from "../look/numbers";
import { VerdictLabel } from "../look/Verdict";
import { outcomes } from "./outcomes";

const ARCHIVE = ".zip";

/** Everything that the part can become, what each file is for, made together as one archive. */
export function HandOverPage() {
  return <DesignPage>{(design) => <HandOver key={design.revision} design={design} />}</DesignPage>;
}

function HandOver({ design }: { design: Design }) {
  const recipe = design.recipe as unknown as AnyRecipe;
  const { data: report, error } = useQuery({
    queryKey: ["handed-over", design.id, design.revision],
    queryFn: ({ signal }) => check(recipe, false, signal),
    refetchOnWindowFocus: false,
    retry: false,
  });
  const earlier = useBuilds(design.id)?.find(
    (one) => one.revision === design.revision && one.files.some(({ suffix }) => suffix === ARCHIVE),
  );
  const work = useLongWork("build", () => startBuild(design.id, [ARCHIVE]), earlier?.id ?? null);
  const done = work.job?.state === "done" ? work.job : null;
  const { data: contents } = useQuery({
    queryKey: ["contents", done?.id],
    enabled: done !== null,
    queryFn: () =>
      answer(client.GET("/api/jobs/{job_id}/contents", { params: { path: { job_id: done!.id } } })),
    refetchOnWindowFocus: false,
  });
  const keep = useMutation({ mutationFn: (key: string) => keepFile(key, recipe) });
  const stopped = report?.verdict === "stop";
  const offered = (report?.outputs ?? []).filter(({ suffix }) => suffix !== ARCHIVE);
  const size = done?.files.find(({ suffix }) => suffix === ARCHIVE)?.bytes;
  return (
    <BesideBench
      design={design}
      title="Hand over"
      left={
        <>
          <Typography variant="body2">
            All files that fit this part, with the recipe and a manifest of their units, hashes and
            proofs, as one archive of revision {design.revision}.
          </Typography>
          {stopped && (
            <Typography variant="body2" role="alert">
              A check says <VerdictLabel verdict="stop" />; take its remedy on the bench first.
            </Typography>
          )}
          <Button
            variant={done ? "outlined" : "contained"}
            disabled={!report || stopped}
            aria-disabled={work.running}
            onClick={() => work.running || work.start()}
          >
            {done ? "Make the archive again" : "Make the archive"}
          </Button>
          <JobStatus what="archive" work={work} trouble={error?.message ?? keep.error?.message} />
          {done && (
            <Button variant="contained" href={fileOf(done, ARCHIVE)} download>
              Take the archive{size !== undefined && `, ${sizeText(size)}`}
            </Button>
          )}
        </>
      }
    >
      <Stack component="section" aria-label="Files" sx={{ p: 2, overflowY: "auto" }} spacing={2}>
        <DataTable
          label="Files of this part"
          heads={["File", "For", "Size", "Off by, of the whole", "SHA-256", "At once"]}
          words={[0, 1, 4]}
          rows={outcomes(offered, contents ?? null).map((one) => ({
            key: one.key,
            cells: [
              <strong>{one.name}</strong>,
              one.why ? `not made: ${one.why}` : one.use,
              one.size,
              one.off,
              <code title={one.sha256}>{one.sha256.slice(0, 8)}</code>,
              one.atOnce ? (
                <Button
                  variant="text"
                  sx={{ py: 0, minHeight: 0 }}
                  disabled={keep.isPending}
                  onClick={() => keep.mutate(one.key)}
                  aria-label={`Take ${one.name}`}
                >
                  Take
                </Button>
              ) : null,
            ],
          }))}
        />
      </Stack>
    </BesideBench>
  );
}

import Button from "@mui/material/Button";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { fileOf, startBuild, useBuilds, useLongWork } from "../api/jobs";
import { JobStatus } from "../beside/JobStatus";
import { PlainDialog } from "../look/PlainDialog";
import { sizeText } from "../look/numbers";
import { VerdictLabel } from "../look/Verdict";
import type { OnShelf } from "./sight";

interface Props {
  designs: OnShelf[];
  onClose: () => void;
}

/** Builds the solids of several designs, each with its progress, its trouble and its files. */
export function BuildDialog({ designs, onClose }: Props) {
  return (
    <PlainDialog title="Solids of the chosen designs" onClose={onClose}>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        Building goes on when this is closed; the files stand on each design's bench, under Solid.
      </Typography>
      <Stack component="ul" spacing={1.5} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {designs.map((design) => (
          <li key={design.id}>
            <BuiltDesign design={design} />
          </li>
        ))}
      </Stack>
    </PlainDialog>
  );
}

function BuiltDesign({ design }: { design: OnShelf }) {
  const builds = useBuilds(design.id);
  const earlier = builds?.find(({ revision }) => revision === design.revision);
  const work = useLongWork("build", () => startBuild(design.id), earlier?.id ?? null);
  const { job } = work;
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || !builds) return;
    begun.current = true;
    if (!earlier || earlier.state === "failed" || earlier.state === "cancelled") work.start();
  }, [builds, earlier, work]);
  return (
    <>
      <Stack direction="row" spacing={1} sx={{ alignItems: "baseline" }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          {design.name}
        </Typography>
        <VerdictLabel verdict={design.verdict} />
      </Stack>
      <JobStatus what={`build of ${design.name}`} work={work} />
      {job?.state === "done" && (
        <Box>
          {job.files.map((file) => (
            <Button key={file.suffix} variant="text" href={fileOf(job, file.suffix)} download>
              {file.title.split(",")[0]}, {sizeText(file.bytes)}
            </Button>
          ))}
        </Box>
      )}
    </>
  );
}

import { MM } from "../../look/numbers";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, Refusal, type Build } from "../../api/client";
import { VerdictLabel } from "../../look/Verdict";
import { useDesk } from "../../state/bench";
import { usePartContext } from "../PartContext";

const RUNNING = new Set(["queued", "running"]);

/** Checks, builds and proves the solid, and offers its files. */
export function SolidStep() {
  const { designId, part, saving } = usePartContext();
  const [buildId, setBuildId] = useState<string | null>(null);
  const start = useMutation({
    mutationFn: async () => {
      const revision = await saving.flush();
      if (revision === null) throw new Error("the design could not be saved, so it was not built");
      return answer(
        client.POST("/api/designs/{design_id}/builds", {
          params: { path: { design_id: designId } },
        }),
      );
    },
    onSuccess: (build) => setBuildId(build.id),
  });
  const { data: build } = useQuery({
    queryKey: ["build", buildId],
    enabled: buildId !== null,
    queryFn: () =>
      answer(client.GET("/api/builds/{build_id}", { params: { path: { build_id: buildId! } } })),
    refetchInterval: (query) => (RUNNING.has(query.state.data?.state ?? "queued") ? 300 : false),
  });
  const cancel = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/builds/{build_id}/cancel", { params: { path: { build_id: buildId! } } }),
      ),
  });
  const tellSolid = useDesk((state) => state.tellSolid);
  const told = build?.state === "done" ? `proven, of revision ${build.revision}` : build?.state;
  useEffect(() => tellSolid(told ?? null), [told, tellSolid]);
  const running = start.isPending || (buildId !== null && RUNNING.has(build?.state ?? "queued"));
  const stopped = part.report?.verdict === "stop" || part.problems.length > 0;
  const error =
    build?.state === "failed"
      ? build.error
      : start.error instanceof Refusal
        ? start.error.problems.map((p) => `${p.reason}; ${p.remedy}`).join(". ")
        : start.error?.message;
  return (
    <Stack spacing={1.25}>
      {stopped && (
        <Typography variant="body2">
          A check says <VerdictLabel verdict="stop" />; take its remedy, then build.
        </Typography>
      )}
      <Stack direction="row" spacing={1}>
        <Button
          variant="contained"
          fullWidth
          size="medium"
          disabled={running || stopped}
          onClick={() => start.mutate()}
        >
          {build?.state === "done" ? "Build again" : "Check and build the solid"}
        </Button>
        {running && buildId && (
          <Button variant="outlined" onClick={() => cancel.mutate()}>
            Cancel
          </Button>
        )}
      </Stack>
      {running && (
        <div role="status">
          <LinearProgress
            variant="determinate"
            value={100 * (build?.progress ?? 0)}
            aria-label="Progress of the build"
          />
          <Typography variant="caption">
            {build?.step ?? "waiting"}, {Math.round(100 * (build?.progress ?? 0))} %
          </Typography>
        </div>
      )}
      {build?.state === "cancelled" && (
        <Typography variant="body2" role="status">
          Cancelled. Nothing was kept.
        </Typography>
      )}
      {error && (
        <Typography variant="body2" color="error" role="alert">
          No solid: {error}.
        </Typography>
      )}
      {build?.state === "done" && <ProofTable build={build} current={saving.revision} />}
    </Stack>
  );
}

const NAMES: Record<string, string> = {
  ".step": "STEP, exact solid",
  ".stl": "STL, mesh",
  ".glb": "GLB, mesh",
};

function ProofTable({ build, current }: { build: Build; current: number }) {
  const { unit } = usePartContext();
  const solid = build.proofs[".step"];
  if (!solid) return null;
  const scale = MM[unit] ** 3;
  const volume = (value: number) => `${(value / scale).toPrecision(9)} ${unit}³`;
  return (
    <>
      {build.revision !== current && (
        <Typography variant="body2" color="warning">
          These files are of revision {build.revision}; the design is now at {current}.
        </Typography>
      )}
      <Table size="small" aria-label="Proof of the solid" sx={{ "& td, & th": { px: 0.5 } }}>
        <TableBody>
          <Row name="Proof, read back from the file" value="" head />
          <Row name="Closed" value={solid.closed ? "yes" : "no"} />
          <Row name="Valid" value={solid.valid ? "yes" : "no"} />
          <Row name="Volume" value={volume(solid.volume)} />
          <Row name="Predicted" value={volume(solid.predicted_volume)} />
          <Row name="Off by" value={`${solid.relative_error.toExponential(1)} of it`} />
        </TableBody>
      </Table>
      <Table size="small" aria-label="Files" sx={{ "& td, & th": { px: 0.5 } }}>
        <TableHead>
          <TableRow>
            <TableCell>File</TableCell>
            <TableCell align="right">Off by</TableCell>
            <TableCell align="right">Size</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {build.files.map((file) => (
            <TableRow key={file.suffix}>
              <TableCell>
                <a href={`/api/builds/${build.id}/files/${file.suffix.slice(1)}`} download>
                  {NAMES[file.suffix] ?? file.suffix}
                </a>
              </TableCell>
              <TableCell align="right">
                {build.proofs[file.suffix]?.relative_error.toExponential(0)}
              </TableCell>
              <TableCell align="right">{(file.bytes / 1024).toFixed(0)} KiB</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}

function Row({ name, value, head = false }: { name: string; value: string; head?: boolean }) {
  return (
    <TableRow>
      <TableCell component="th" scope="row" sx={{ fontWeight: head ? 650 : 400 }}>
        {name}
      </TableCell>
      <TableCell align="right">{value}</TableCell>
    </TableRow>
  );
}

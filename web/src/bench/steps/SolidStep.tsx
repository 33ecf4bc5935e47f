import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import InputAdornment from "@mui/material/InputAdornment";
import TextField from "@mui/material/TextField";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { isThreaded, type Build } from "../../api/client";
import { fileOf, startBuild, useBuilds, useLongWork } from "../../api/jobs";
import { JobStatus } from "../../beside/JobStatus";
import { VerdictLabel } from "../../look/Verdict";
import { useDesk, useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { useSaving, useTold, useUnit } from "../PartContext";
import { ValueField } from "../ValueField";
import { MadeFiles } from "./MadeFiles";
import { DataTable } from "../../look/DataTable";
import { MM, sizeText } from "../../look/numbers";

/** Checks, builds and proves the solid, and offers its files. */
export function SolidStep() {
  const part = useTold();
  const unit = useUnit();
  const as = useRecipe(({ recipe }) =>
    recipe === null || isThreaded(recipe) ? null : (recipe.use?.as ?? "body"),
  );
  const saving = useSaving();
  const set = useRecipe((state) => state.set);
  const [formats, setFormats] = useState<string[]>([".step", ".stl", ".glb"]);
  const [chord, setChord] = useState("");
  const shownError = useDesk((state) => state.chordError);
  const showError = useDesk((state) => state.showChordError);
  const typed = Number(chord) * MM[unit];
  const chordError = chord.trim() !== "" && typed > 0 ? typed : null;
  const builds = useBuilds(saving.id);
  const work = useLongWork(
    "build",
    async () => {
      const kept = await saving.flush();
      if (kept === null) throw new Error("the design could not be saved, so it was not built");
      return startBuild(kept.id, formats, chordError);
    },
    builds?.[0]?.id ?? null,
  );
  const { job: build, running } = work;
  const tellSolid = useDesk((state) => state.tellSolid);
  const told = build?.state === "done" ? `proven, of revision ${build.revision}` : build?.state;
  useEffect(() => tellSolid(told ?? null), [told, tellSolid]);
  const offered = (part.report?.outputs ?? []).filter((one) => one.built);
  const stopped = part.report?.verdict === "stop" || part.problems.length > 0;
  return (
    <Stack spacing={1.25}>
      {stopped && (
        <Typography variant="body2">
          A check says <VerdictLabel verdict="stop" />; take its remedy, then build.
        </Typography>
      )}
      {as && (
        <Stack direction="row" spacing={1}>
          <Choice
            label="Becomes"
            value={as}
            options={[
              ["body", "a body"],
              ["skin", "a skin"],
            ]}
            onChange={(next) => set("/use", { as: next })}
          />
          {as === "skin" && (
            <ValueField label="Thickness, if any" place="/use/thickness" unit={unit} optional />
          )}
        </Stack>
      )}
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
        <Typography component="legend" variant="h3" sx={{ p: 0 }}>
          Files
        </Typography>
        <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", columnGap: 1 }}>
          {offered.map(({ suffix, title }) => (
            <FormControlLabel
              key={suffix}
              label={<Typography variant="body2">{title.split(",")[0]}</Typography>}
              sx={{ mr: 0, minWidth: 88 }}
              control={
                <Checkbox
                  size="small"
                  sx={{ p: 0.4 }}
                  checked={formats.includes(suffix)}
                  onChange={(_, on) =>
                    setFormats((old) => (on ? [...old, suffix] : old.filter((f) => f !== suffix)))
                  }
                />
              }
            />
          ))}
        </Stack>
      </Box>
      <Stack direction="row" spacing={1}>
        <TextField
          label="Chord error of meshes"
          placeholder="usual"
          value={chord}
          fullWidth
          onChange={(event) => setChord(event.target.value)}
          slotProps={{
            inputLabel: { shrink: true },
            htmlInput: { style: { textAlign: "right" } },
            input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
          }}
        />
        <Button
          variant="outlined"
          sx={{ flex: "none" }}
          disabled={chordError === null && shownError === null}
          onClick={() => showError(shownError === null ? chordError : null)}
        >
          {shownError === null ? "Show its wire-frame" : "Back to the preview"}
        </Button>
      </Stack>
      <Button
        variant="contained"
        fullWidth
        size="medium"
        disabled={stopped || formats.length === 0}
        aria-disabled={running}
        onClick={() => running || work.start()}
      >
        {build?.state === "done" ? "Build again" : "Check and build the solid"}
      </Button>
      <JobStatus what="build" work={work} trouble={work.trouble && `No solid: ${work.trouble}.`} />
      {build?.state === "done" && <ProofTable build={build} current={saving.revision} />}
      <MadeFiles />
    </Stack>
  );
}

function ProofTable({ build, current }: { build: Build; current: number }) {
  const unit = useUnit();
  const solid = build.proofs[".step"] ?? Object.values(build.proofs)[0];
  if (!solid) return null;
  const skin = solid.area != null;
  const power = skin ? 2 : 3;
  const [measured, predicted] = skin
    ? [solid.area!, solid.predicted_area!]
    : [solid.volume, solid.predicted_volume];
  const figure = (value: number) =>
    `${(value / MM[unit] ** power).toPrecision(9)} ${unit}${skin ? "²" : "³"}`;
  return (
    <>
      {build.revision !== current && (
        <Typography variant="body2" color="warning">
          These files are of revision {build.revision}; the design is now at {current}.
        </Typography>
      )}
      <DataTable
        label="Proof of the solid"
        rows={[
          [<strong>Proof, read back from the file</strong>, ""],
          ["Closed", skin ? "a skin" : solid.closed ? "yes" : "no"],
          ["Valid", solid.valid ? "yes" : "no"],
          [skin ? "Area" : "Volume", figure(measured)],
          ["Predicted", figure(predicted)],
          ["Off by", `${solid.relative_error.toExponential(1)} of it`],
        ].map((cells, index) => ({ key: String(index), cells }))}
      />
      <DataTable
        label="Files"
        heads={["File", "Off by, of the whole", "Size"]}
        rows={build.files.map((file) => ({
          key: file.suffix,
          cells: [
            <a href={fileOf(build, file.suffix)} download>
              {file.title}
            </a>,
            build.proofs[file.suffix]?.relative_error.toExponential(0),
            sizeText(file.bytes),
          ],
        }))}
      />
    </>
  );
}

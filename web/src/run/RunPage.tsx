import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { answer, client, type AnyRecipe, type Design, type Input, type Ran } from "../api/client";
import { fileOf, useLongWork } from "../api/jobs";
import { BesideBench, DesignPage } from "../beside/BesideBench";
import { JobStatus } from "../beside/JobStatus";
import { useInputs } from "../beside/useInputs";
import { Choice } from "../bench/Choice";
import { later } from "../look/Later";
import { digits, shown, type LengthUnit } from "../look/numbers";
import { VerdictLabel } from "../look/Verdict";
import { DataTable } from "../look/DataTable";

interface Track {
  input: string;
  values: number[];
}

const Player = later(() => import("./Player").then((m) => m.Player));

/** Inputs that move over time, played with all checks at each frame, and kept as an animation. */
export function RunPage() {
  return <DesignPage>{(design) => <Run key={design.revision} design={design} />}</DesignPage>;
}

function Run({ design }: { design: Design }) {
  const recipe = design.recipe as unknown as AnyRecipe;
  const unit = (recipe.unit ?? "mm") as LengthUnit;
  const [tracks, setTracks] = useState<Track[] | null>(null);
  const [seconds, setSeconds] = useState("4");
  const [frames, setFrames] = useState("40");
  const [frame, setFrame] = useState(0);
  const { data: inputs, error: unusable } = useInputs(design);
  const moving = tracks ?? (inputs ? usual(inputs) : []);
  const work = useLongWork("run", () =>
    answer(
      client.POST("/api/jobs", {
        body: {
          kind: "run",
          recipe: recipe as unknown as Record<string, never>,
          tracks: moving.map((track) => ({ ...track, ease: "smooth" as const })),
          frames: Math.round(Number(frames)) || 40,
          seconds: Number(seconds) || 4,
        },
      }),
    ),
  );
  const { job, running } = work;
  const run = job?.run ?? null;
  return (
    <BesideBench
      design={design}
      title="Run-through of"
      rightWidth={300}
      left={
        <>
          {inputs && <Tracks inputs={inputs} tracks={moving} onChange={setTracks} />}
          <Stack direction="row" spacing={1}>
            <TextField
              label="Seconds"
              value={seconds}
              onChange={(e) => setSeconds(e.target.value)}
            />
            <TextField label="Frames" value={frames} onChange={(e) => setFrames(e.target.value)} />
          </Stack>
          <Button
            variant="contained"
            disabled={running || moving.length === 0}
            onClick={() => {
              setFrame(0);
              work.start();
            }}
          >
            Run it through
          </Button>
          <JobStatus what="run" work={work} trouble={unusable?.message} />
          {run && job && (
            <Stack spacing={1}>
              {[
                ["glb", "Animation, GLB"],
                ["webp", "Video, WebP"],
                ["zip", "Pictures, PNG in a ZIP"],
              ].map(([suffix, title]) => (
                <Button key={suffix} variant="outlined" href={fileOf(job, suffix!)} download>
                  {title}
                </Button>
              ))}
            </Stack>
          )}
        </>
      }
      right={run && <FrameFigures run={run} frame={frame} unit={unit} onFrame={setFrame} />}
    >
      <Box sx={{ position: "relative", minWidth: 0 }}>
        {run && job ? (
          <Player address={fileOf(job, "glb")} run={run} frame={frame} onFrame={setFrame} />
        ) : (
          <Typography sx={{ p: 6, maxWidth: 480 }}>
            Let inputs move between values: a spring’s working point, a bar’s twist, a span. Every
            frame is checked, and the first that runs into itself is shown. A spring is drawn under
            the load of the working point that moves.
          </Typography>
        )}
      </Box>
    </BesideBench>
  );
}

function usual(inputs: Input[]): Track[] {
  const worked = inputs.findLast((one) => /^\/spring\/points\/\d+\//.test(one.place));
  if (worked) return [{ input: worked.place, values: [unloaded(worked, inputs), worked.value] }];
  const twist = inputs.find((one) => one.place === "/along/twist/total");
  if (twist) return [{ input: twist.place, values: [0, twist.value] }];
  const first = inputs.find((one) => one.place === "/path/pitch") ?? inputs[0];
  return first ? [trackOf(first)] : [];
}

/** Where a working point begins: near the free length of a spring that pushes or pulls, at no load or angle else. */
function unloaded({ place, value }: Input, inputs: Input[]): number {
  if (!place.endsWith("/length")) return Number((value * 0.05).toPrecision(4));
  const first = inputs.find((one) => one.place === "/spring/points/0/length")?.value ?? value;
  return first === value ? Number((value * 1.05).toPrecision(4)) : first;
}

function trackOf(input: Input): Track {
  const to = input.value === 0 ? 1 : input.value * 0.5;
  return { input: input.place, values: [input.value, Number(to.toPrecision(4))] };
}

function Tracks(props: { inputs: Input[]; tracks: Track[]; onChange: (tracks: Track[]) => void }) {
  const { inputs, tracks, onChange } = props;
  const put = (at: number, track: Track) =>
    onChange(tracks.map((old, index) => (index === at ? track : old)));
  const free = inputs.filter((one) => tracks.every((track) => track.input !== one.place));
  return (
    <>
      {tracks.map((track, index) => {
        const input = inputs.find((one) => one.place === track.input)!;
        return (
          <Box
            key={track.input}
            component="fieldset"
            sx={{ border: 1, borderColor: "divider", m: 0, p: 1 }}
          >
            <Stack spacing={1}>
              <Choice
                label={`Input ${index + 1}`}
                value={track.input}
                options={[input, ...free].map((one) => [one.place, one.words] as const)}
                onChange={(place) =>
                  put(index, trackOf(inputs.find((one) => one.place === place)!))
                }
              />
              <TextField
                label={`Moves through${input.unit && `, ${input.unit}`}`}
                defaultValue={track.values.join(" → ")}
                helperText={`Values with spaces between; it is ${digits(input.value, 6)} now.`}
                onChange={(event) => {
                  const values = event.target.value
                    .split(/[^-0-9.e]+/)
                    .filter((word) => word !== "")
                    .map(Number);
                  if (values.length > 1 && values.every(Number.isFinite)) {
                    put(index, { ...track, values });
                  }
                }}
              />
              {tracks.length > 1 && (
                <Button
                  variant="text"
                  onClick={() => onChange(tracks.filter((_, k) => k !== index))}
                >
                  Leave it out
                </Button>
              )}
            </Stack>
          </Box>
        );
      })}
      {free.length > 0 && tracks.length < 6 && (
        <Button variant="outlined" onClick={() => onChange([...tracks, trackOf(free[0]!)])}>
          Move another input too
        </Button>
      )}
    </>
  );
}

function FrameFigures(props: {
  run: Ran;
  frame: number;
  unit: LengthUnit;
  onFrame: (frame: number) => void;
}) {
  const { run, frame, unit, onFrame } = props;
  const now = run.frames[frame]!;
  return (
    <Stack spacing={1.25}>
      {run.clash === null ? (
        <Typography variant="body2">No frame stops.</Typography>
      ) : (
        <Button variant="outlined" onClick={() => onFrame(run.clash!)}>
          Show the first clash, frame {run.clash + 1}
        </Button>
      )}
      <VerdictLabel verdict={now.verdict} big />
      {now.why && <Typography variant="body2">{now.why}</Typography>}
      <DataTable
        label="This frame"
        quiet={[2]}
        rows={[
          ...run.inputs.map((input, k) => ({
            key: input.place,
            cells: [<strong>{input.words}</strong>, digits(now.values[k]!, 5), input.unit],
          })),
          ...FIGURES.flatMap(([name, title, of]) => {
            const value = now.figures[name] ?? null;
            if (value === null) return [];
            const told = shown(value, of, unit);
            return [{ key: name, cells: [title, told.number, told.unit] }];
          }),
        ]}
      />
    </Stack>
  );
}

const FIGURES = [
  ["force", "Force", "N"],
  ["torque", "Torque", "N mm"],
  ["stress", "Corrected stress", "MPa"],
  ["wire_length", "Wire length", "mm"],
  ["min_gap", "Smallest gap", "mm"],
  ["min_bend_radius", "Tightest bend", "mm"],
  ["outside_diameter", "Outside diameter", "mm"],
  ["overall_height", "Overall height", "mm"],
  ["volume", "Volume", "mm³"],
  ["mass", "Mass", "g"],
] as const;

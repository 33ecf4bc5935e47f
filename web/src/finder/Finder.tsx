import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import InputAdornment from "@mui/material/InputAdornment";
import Stack from "@mui/material/Stack";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, newDesign, Refusal, type Standard } from "../api/client";
import { Choice } from "../bench/Choice";
import { ProfileDrawing } from "../bench/thread/ProfileDrawing";
import { GaugingTable, SizesTable } from "../bench/thread/SizesTable";
import useResizeObserver from "../bench/useResizeObserver";
import { FinderPage } from "./FinderPage";
import { digits, MM } from "../look/numbers";
import { DataTable } from "../look/DataTable";

type Side = "external" | "internal";

/** From what a person writes or measures to a thread, and from there to the bench. */
export function Finder() {
  const [text, setText] = useState("M10");
  const [way, setWay] = useState<"written" | "measured">("written");
  const [side, setSide] = useState<Side>("external");
  const navigate = useNavigate();
  const wanted = useDeferredValue(text.trim());
  const found = useQuery({
    queryKey: ["thread", wanted],
    enabled: wanted !== "",
    retry: false,
    queryFn: () =>
      answer(client.GET("/api/threads", { params: { query: { designation: wanted } } })),
    placeholderData: (old) => old,
  });
  const standard = found.error ? null : (found.data?.standard ?? null);
  const own = standard?.side ?? side;
  const take = useMutation({
    mutationFn: (recipe: Record<string, unknown>) => newDesign(recipe),
    onSuccess: (design) => navigate(`/designs/${design.id}`),
  });
  return (
    <FinderPage title="Thread finder" left={400}>
      <Stack sx={{ borderRight: 1, borderColor: "divider", minHeight: 0 }}>
        <Tabs
          value={way}
          onChange={(_, next: "written" | "measured") => setWay(next)}
          aria-label="How the thread is known"
        >
          <Tab value="written" label="By its name" />
          <Tab value="measured" label="What is this thread?" />
        </Tabs>
        <Stack
          spacing={1.5}
          tabIndex={0}
          role="region"
          aria-label="Threads to choose from"
          sx={{ p: 1.5, overflowY: "auto", minHeight: 0 }}
        >
          {way === "written" ? (
            <Written text={text} onText={setText} error={found.error} />
          ) : (
            <Measured onPick={setText} picked={wanted} side={side} onSide={setSide} />
          )}
        </Stack>
      </Stack>
      <Stack sx={{ minHeight: 0, minWidth: 0 }}>
        {standard && found.data ? (
          <>
            <Stack direction="row" spacing={1.5} sx={{ alignItems: "center", px: 2, py: 1 }}>
              <Typography variant="h1" component="h2" sx={{ fontSize: "1.3rem" }}>
                {standard.designation}
              </Typography>
              <Typography color="text.secondary" sx={{ flex: 1 }}>
                {standard.title}, {standard.hand} hand
                {standard.starts > 1 ? `, ${standard.starts} starts` : ""}
              </Typography>
              {!standard.side && (
                <Box sx={{ width: 130 }}>
                  <Choice
                    label="Built as"
                    value={side}
                    options={[
                      ["external", "external"],
                      ["internal", "internal"],
                    ]}
                    onChange={setSide}
                  />
                </Box>
              )}
              <Button
                variant="contained"
                disabled={take.isPending}
                onClick={() => take.mutate(found.data!.recipes[own]!)}
              >
                Put it on the bench
              </Button>
            </Stack>
            <Drawn profiles={found.data.profiles} standard={standard} />
            <Stack
              tabIndex={0}
              role="region"
              aria-label="Sizes and gauging"
              direction="row"
              spacing={3}
              sx={{ px: 2, py: 1, overflowY: "auto", minHeight: 0 }}
            >
              <Box sx={{ flex: 1 }}>
                <SizesTable standard={standard} />
              </Box>
              <Box sx={{ flex: 1 }}>
                <GaugingTable standard={standard} />
              </Box>
            </Stack>
          </>
        ) : (
          <Typography sx={{ m: "auto" }} color="text.secondary">
            {wanted ? "No thread yet: take one of those on the left." : "Write a thread’s name."}
          </Typography>
        )}
      </Stack>
    </FinderPage>
  );
}

function Written(props: { text: string; onText: (text: string) => void; error: Error | null }) {
  const { text, onText, error } = props;
  const wanted = useDeferredValue(text.trim());
  const { data } = useQuery({
    queryKey: ["threads", wanted],
    enabled: wanted !== "",
    queryFn: () =>
      answer(client.GET("/api/threads/nearest", { params: { query: { text: wanted } } })),
    placeholderData: (old) => old,
  });
  const problem = error instanceof Refusal ? error.problems[0] : undefined;
  return (
    <>
      <TextField
        autoFocus
        label="Designation"
        value={text}
        onChange={(event) => onText(event.target.value)}
        error={Boolean(problem)}
        helperText={
          problem
            ? `${problem.reason}; ${problem.remedy}`
            : "M10x1.25-6g, 1/4-20 UNC-2B, G 1/2 A, Tr 40x14 P7 LH, 1/2-14 NPT, 2 BA"
        }
      />
      <Picks
        rows={(data ?? []).map((row) => [row.designation, pitchText(row.pitch, row.inch)])}
        head={["Near it", "Pitch"]}
        picked={text}
        onPick={onText}
      />
    </>
  );
}

interface MeasuredProps {
  onPick: (text: string) => void;
  picked: string;
  side: Side;
  onSide: (side: Side) => void;
}

function Measured({ onPick, picked, side, onSide }: MeasuredProps) {
  const [diameter, setDiameter] = useState("9.9");
  const [pitch, setPitch] = useState("1.5");
  const [unit, setUnit] = useState<"mm" | "in">("mm");
  const [by, setBy] = useState<"pitch" | "tpi" | "count">("pitch");
  const [within, setWithin] = useState("0.1");
  const [count, setCount] = useState("10");
  const scale = MM[unit];
  const numberOf = (text: string) => Number(text.replace(",", "."));
  const d = numberOf(diameter) * scale;
  const typed = numberOf(pitch);
  const p = { pitch: typed * scale, tpi: MM.in / typed, count: (typed * scale) / numberOf(count) }[
    by
  ];
  const error = numberOf(within) * scale;
  const pitchError = by === "count" ? error / numberOf(count) : Math.min(0.25 * error, 0.02 * p);
  const valid =
    d > 0.01 && d <= 1000 && p > 0.01 && p <= 1000 && error > 0 && error <= 50 && pitchError > 0;
  const { data } = useQuery({
    queryKey: ["measured", d, p, side, error, pitchError],
    enabled: valid,
    queryFn: () =>
      answer(
        client.GET("/api/threads/measured", {
          params: {
            query: {
              diameter: d,
              pitch: p,
              side,
              diameter_error: Math.max(error, 1e-3),
              pitch_error: Math.max(pitchError, 1e-3),
            },
          },
        }),
      ),
    placeholderData: (old) => old,
  });
  return (
    <>
      <Choice
        label="It is"
        value={side}
        options={[
          ["external", "external: its outside is measured"],
          ["internal", "internal: the bore between its crests"],
        ]}
        onChange={onSide}
      />
      <Stack direction="row" spacing={1}>
        <TextField
          label="Measured diameter"
          value={diameter}
          error={!(d > 0.01 && d <= 1000)}
          onChange={(event) => setDiameter(event.target.value)}
          slotProps={adorned(unit)}
        />
        <Choice
          label="Unit"
          value={unit}
          options={[
            ["mm", "mm"],
            ["in", "inches"],
          ]}
          onChange={setUnit}
        />
      </Stack>
      <Stack direction="row" spacing={1}>
        <TextField
          label={{ pitch: "Pitch", tpi: "Turns in an inch", count: "Length of so many turns" }[by]}
          value={pitch}
          error={!(p > 0.01 && p <= 1000)}
          onChange={(event) => setPitch(event.target.value)}
          slotProps={adorned(by === "tpi" ? "/ in" : unit)}
        />
        <Choice
          label="Given as"
          value={by}
          options={[
            ["pitch", "pitch"],
            ["tpi", "turns in an inch"],
            ["count", "turns over a length"],
          ]}
          onChange={setBy}
        />
      </Stack>
      <Stack direction="row" spacing={1}>
        <TextField
          label="Read within ±"
          value={within}
          error={!(error > 0 && error <= 50)}
          onChange={(event) => setWithin(event.target.value)}
          slotProps={adorned(unit)}
        />
        {by === "count" && (
          <TextField
            label="Turns counted"
            value={count}
            error={!(numberOf(count) > 0)}
            onChange={(event) => setCount(event.target.value)}
            slotProps={adorned("")}
          />
        )}
      </Stack>
      {valid ? (
        <Picks
          rows={(data ?? []).map((row) => [
            row.designation,
            `${digits(100 * row.probable, 2)} %; ${signed(row.diameter_off)}, ${signed(row.pitch_off)}`,
          ])}
          head={["Most probable first", "share; ⌀ and pitch off, mm"]}
          picked={picked}
          onPick={onPick}
        />
      ) : (
        <Typography variant="body2">Type a diameter and a pitch, up to 1000 mm.</Typography>
      )}
    </>
  );
}

interface PicksProps {
  rows: [string, string][];
  head: [string, string];
  picked: string;
  onPick: (text: string) => void;
}

function Picks({ rows, head, picked, onPick }: PicksProps) {
  return (
    <DataTable
      label="Threads"
      heads={head}
      rows={rows.map(([name, figure]) => ({
        key: name,
        chosen: name === picked,
        cells: [
          <Button
            variant="text"
            fullWidth
            onClick={() => onPick(name)}
            sx={{ justifyContent: "flex-start", py: 0 }}
          >
            {name}
          </Button>,
          figure,
        ],
      }))}
    />
  );
}

function Drawn(props: {
  profiles: Parameters<typeof ProfileDrawing>[0]["profiles"];
  standard: Standard;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const width = useResizeObserver(frame);
  return (
    <Box ref={frame} sx={{ borderTop: 1, borderBottom: 1, borderColor: "divider" }}>
      <ProfileDrawing
        {...props}
        unit={props.standard.inch ? "in" : "mm"}
        width={width}
        height={230}
      />
    </Box>
  );
}

const adorned = (unit: string) => ({
  htmlInput: { style: { textAlign: "right" as const } },
  input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
});

const signed = (value: number) => (value > 0 ? `+${digits(value, 3)}` : digits(value, 3));

const pitchText = (pitch: number, inch: boolean) =>
  inch ? `${digits(MM.in / pitch)} / in` : `${digits(pitch)} mm`;

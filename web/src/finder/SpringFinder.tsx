import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import InputAdornment from "@mui/material/InputAdornment";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, newDesign, Refusal, type FoundSpring, type Wish } from "../api/client";
import { Choice } from "../bench/Choice";
import { choicesOf, fieldOf } from "../schema/schema";
import { lengthText, told, type LengthUnit } from "../look/numbers";
import { keyOf, toggled } from "./beside";
import { FIRST, LOADS, wishOf, type Chosen, type Kind, type Typed } from "./duty";
import { Bounds } from "./Bounds";
import { FinderPage } from "./FinderPage";
import { FoundPlot } from "./FoundPlot";
import { FoundTable } from "./FoundTable";
import { InTheWay } from "./InTheWay";
import { SideBySide } from "./SideBySide";

const UNITS = choicesOf(fieldOf("Recipe", "unit"));
const SEATS = choicesOf(fieldOf("CompressionSpring", "seat"));
const KINDS = [
  ["compression", "pushes"],
  ["nest", "pair that pushes"],
  ["extension", "pulls"],
  ["torsion", "turns"],
] as const;
const RANKS = [
  ["use", "most in reserve"],
  ["mass", "least mass"],
  ["length", "shortest"],
  ["price", "cheapest"],
] as const;
const TURNS = [
  ["any", "any"],
  ["quarter", "in quarters"],
  ["half", "in halves"],
  ["whole", "whole"],
] as const;

type Single = Exclude<keyof Typed, "places" | "efforts" | "bounds">;

/** From a space and two loads to the springs that do it, and from there to the bench. */
export function SpringFinder() {
  const [kind, setKind] = useState<Kind>("compression");
  const [typed, setTyped] = useState<Typed>(FIRST.compression);
  const [unit, setUnit] = useState<LengthUnit>("mm");
  const [chosen, setChosen] = useState<Chosen>({
    peened: false,
    seat: "guided",
    wires: [],
    rank: "use",
    turns: "any",
  });
  const [picked, setPicked] = useState(0);
  const [beside, setBeside] = useState<string[]>([]);
  const navigate = useNavigate();
  const { data: wires = [] } = useQuery({
    queryKey: ["wires"],
    queryFn: () => answer(client.GET("/api/springs/wires")),
    staleTime: Infinity,
  });
  const wanted = useDeferredValue(JSON.stringify(wishOf(typed, { ...chosen, kind }, unit)));
  const found = useQuery({
    queryKey: ["spring", wanted],
    retry: false,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/springs/find", { body: JSON.parse(wanted) as Wish, signal })),
    placeholderData: (old) => old,
  });
  const problems = found.error instanceof Refusal ? found.error.problems : [];
  const springs = found.error ? [] : (found.data?.springs ?? []);
  const compared = springs.filter((one) => beside.includes(keyOf(one)));
  const spring = springs[Math.min(picked, springs.length - 1)];
  const take = useMutation({
    mutationFn: (one: FoundSpring) => newDesign(one.recipe),
    onSuccess: (design) => navigate(`/designs/${design.id}`),
  });
  const shown = new Set<string>();
  const box = (
    label: string,
    text: string,
    place: string,
    suffix: string,
    change: (next: string) => void,
  ) => {
    shown.add(place);
    const problem = problems.find((one) => one.place === place);
    return (
      <TextField
        key={place}
        fullWidth
        label={label}
        value={text}
        error={Boolean(problem)}
        helperText={problem ? `${problem.reason}; ${problem.remedy}` : undefined}
        onChange={(event) => change(event.target.value)}
        slotProps={{
          inputLabel: { shrink: true },
          htmlInput: { style: { textAlign: "right" } },
          input: { endAdornment: <InputAdornment position="end">{suffix}</InputAdornment> },
        }}
      />
    );
  };
  const field = (label: string, key: Single, suffix: string) =>
    box(label, typed[key], `/${key}`, suffix, (next) => setTyped({ ...typed, [key]: next }));
  const { place, effort } = LOADS[kind];
  const pushes = kind === "compression" || kind === "nest";
  const load = (key: "places" | "efforts", k: 0 | 1) => {
    const told = key === "places" ? place : effort;
    const suffix = { length: unit, angle: "°", force: "N", torque: "N mm" }[told];
    return box(
      `${k ? "Second" : "First"} ${told}`,
      typed[key][k],
      `/loads/${k}/${told}`,
      suffix,
      (next) => {
        const both: [string, string] = [...typed[key]];
        both[k] = next;
        setTyped({ ...typed, [key]: both });
      },
    );
  };
  const duty = (
    <Stack
      spacing={1.25}
      tabIndex={0}
      role="region"
      aria-label="What the spring has to do"
      sx={{ p: 1.5, borderRight: 1, borderColor: "divider", overflowY: "auto", minHeight: 0 }}
    >
      <Stack direction="row" spacing={1}>
        <Choice
          label="The spring"
          value={kind}
          options={KINDS}
          onChange={(next) => {
            setKind(next);
            setTyped(FIRST[next]);
            setChosen({ ...chosen, rank: next === "torsion" ? "mass" : "use" });
            setPicked(0);
          }}
        />
        <Choice
          label="Unit"
          value={unit}
          options={UNITS}
          onChange={(next) => setUnit(next as LengthUnit)}
        />
      </Stack>
      <Typography variant="h3" component="h2">
        The loads
      </Typography>
      {([0, 1] as const).map((k) => (
        <Stack key={k} direction="row" spacing={1}>
          {load("places", k)}
          {load("efforts", k)}
        </Stack>
      ))}
      <Stack direction="row" spacing={1}>
        {field("Life, cycles", "cycles", "")}
        <FormControlLabel
          sx={{ width: "100%" }}
          control={
            <Switch
              size="small"
              checked={Boolean(chosen.peened)}
              onChange={(_, peened) => setChosen({ ...chosen, peened })}
            />
          }
          label="shot-peened"
        />
      </Stack>
      <Typography variant="h3" component="h2">
        The space
      </Typography>
      <Stack direction="row" spacing={1}>
        {field("Bore around it", "bore", unit)}
        {field("Rod inside it", "rod", unit)}
      </Stack>
      <Stack direction="row" spacing={1}>
        {field("Air to keep", "gap", unit)}
        {field(kind === "torsion" ? "Longest body" : "Longest when free", "longest", unit)}
      </Stack>
      {pushes && (
        <Choice
          label="Its ends are"
          value={chosen.seat!}
          options={SEATS}
          onChange={(seat) => setChosen({ ...chosen, seat: seat as Chosen["seat"] })}
        />
      )}
      <Typography variant="h3" component="h2">
        The wire
      </Typography>
      <Autocomplete
        multiple
        options={wires.map((wire) => wire.name)}
        value={chosen.wires ?? []}
        onChange={(_, next) => setChosen({ ...chosen, wires: next })}
        renderInput={(params) => (
          <TextField {...params} label="Of these wires, or of any" placeholder="any" />
        )}
      />
      <TextField
        label="Diameters in stock, or pasted from a table"
        placeholder="2; 2.5; 3"
        multiline
        maxRows={3}
        value={typed.stock}
        onChange={(event) => setTyped({ ...typed, stock: event.target.value })}
      />
      <TextField
        label="Prices a kilogram, a wire a line"
        placeholder="EN 10270-1 SH 3.20"
        multiline
        maxRows={4}
        value={typed.prices}
        onChange={(event) => setTyped({ ...typed, prices: event.target.value })}
      />
      <Bounds
        bounds={typed.bounds}
        unit={unit}
        problems={problems}
        onChange={(bounds) => setTyped({ ...typed, bounds })}
      />
      <Stack direction="row" spacing={1}>
        <Choice
          label="Turns"
          value={chosen.turns!}
          options={TURNS}
          onChange={(turns) => setChosen({ ...chosen, turns })}
        />
        <Choice
          label="Best is"
          value={chosen.rank as (typeof RANKS)[number][0]}
          options={RANKS}
          onChange={(rank) => setChosen({ ...chosen, rank })}
        />
      </Stack>
    </Stack>
  );
  const elsewhere = problems.filter((problem) => !shown.has(problem.place));
  return (
    <FinderPage title="Spring finder" left={352}>
      {duty}
      <Stack sx={{ minHeight: 0, minWidth: 0 }}>
        <Box sx={{ height: 4 }}>
          {found.isFetching && <LinearProgress aria-label="Searching" />}
        </Box>
        <Stack direction="row" spacing={2} sx={{ alignItems: "center", px: 2, py: 1 }}>
          <Typography sx={{ flex: 1 }}>
            {found.data && !found.error && (
              <>
                Both loads set a rate of{" "}
                {told(found.data.rate, kind === "torsion" ? "N mm/°" : "N/mm", unit)}
                {pushes && springs[0]?.free_length
                  ? ` and a free length of ${lengthText(springs[0].free_length, unit)}`
                  : ""}
                .
              </>
            )}
          </Typography>
          <Button
            variant="contained"
            disabled={!spring || take.isPending}
            onClick={() => spring && take.mutate(spring)}
          >
            Put it on the bench
          </Button>
        </Stack>
        {elsewhere.map((problem) => (
          <Typography key={problem.place + problem.reason} role="alert" sx={{ px: 2 }}>
            {problem.reason}; {problem.remedy}.
          </Typography>
        ))}
        {found.data && !found.error && springs.length === 0 && (
          <InTheWay unit={unit} found={found.data} />
        )}
        {springs.length > 0 && (
          <>
            {compared.length > 1 ? (
              <SideBySide
                unit={unit}
                springs={compared}
                onLeave={() => setBeside([])}
                onTake={(one) => take.mutate(one)}
              />
            ) : (
              <FoundPlot unit={unit} springs={springs} chosen={spring} onChoose={setPicked} />
            )}
            <FoundTable
              unit={unit}
              kind={kind}
              springs={springs}
              chosen={spring}
              onChoose={setPicked}
              beside={beside}
              onBeside={(key) => setBeside(toggled(beside, key))}
            />
          </>
        )}
      </Stack>
    </FinderPage>
  );
}

import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import InputAdornment from "@mui/material/InputAdornment";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";
import {
  answer,
  client,
  Refusal,
  type AnyRecipe,
  type FoundSpring,
  type Wish,
} from "../api/client";
import { Choice } from "../bench/Choice";
import { choicesOf, fieldOf } from "../schema/schema";
import { FinderPage } from "./FinderPage";
import { useLook } from "../look/Look";
import { digits, lengthText, typedValue, type LengthUnit } from "../look/numbers";

const FIRST = {
  "/bore": "24",
  "/rod": "12",
  "/gap": "0.5",
  "/loads/0/length": "40",
  "/loads/0/force": "30",
  "/loads/1/length": "28",
  "/loads/1/force": "90",
  "/longest": "",
  "/cycles": "",
} as const;

type Place = keyof typeof FIRST;

const RANKS = [
  ["stress", "least of any limit used"],
  ["mass", "least mass"],
  ["on-hand", "wire on hand"],
] as const;

/** From a space and two loads to the springs that do it, and from there to the bench. */
type Seat = NonNullable<Wish["seat"]>;
const UNITS = choicesOf(fieldOf("Recipe", "unit"));
const SEATS = choicesOf(fieldOf("CompressionSpring", "seat"));

export function SpringFinder() {
  const [typed, setTyped] = useState<Record<Place, string>>(FIRST);
  const [unit, setUnit] = useState<LengthUnit>("mm");
  const [rank, setRank] = useState<(typeof RANKS)[number][0]>("stress");
  const [seat, setSeat] = useState<Seat>("guided");
  const [peened, setPeened] = useState(false);
  const [names, setNames] = useState<string[]>([]);
  const [onHand, setOnHand] = useState("");
  const [picked, setPicked] = useState(0);
  const { colours } = useLook();
  const navigate = useNavigate();
  const { data: wires = [] } = useQuery({
    queryKey: ["wires"],
    queryFn: () => answer(client.GET("/api/springs/wires")),
    staleTime: Infinity,
  });
  const value = (place: Place) => (typed[place].trim() ? typedValue(typed[place]) : undefined);
  const load = (k: 0 | 1) => ({
    length: value(`/loads/${k}/length`) ?? "",
    force: value(`/loads/${k}/force`) ?? "",
  });
  const wish: Wish = {
    format: "metaspira/1",
    unit,
    loads: [load(0), load(1)],
    bore: value("/bore"),
    rod: value("/rod"),
    gap: value("/gap") ?? 0,
    longest: value("/longest"),
    cycles: value("/cycles"),
    peened,
    seat,
    wires: names,
    on_hand: onHand
      .split(/[;\s]+/)
      .filter(Boolean)
      .map(typedValue),
    rank,
  };
  const wanted = useDeferredValue(JSON.stringify(wish));
  const found = useQuery({
    queryKey: ["spring", wanted],
    retry: false,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/springs/find", { body: JSON.parse(wanted) as Wish, signal })),
    placeholderData: (old) => old,
  });
  const problems = found.error instanceof Refusal ? found.error.problems : [];
  const springs = found.error ? [] : (found.data?.springs ?? []);
  const chosen = springs[Math.min(picked, springs.length - 1)];
  const take = useMutation({
    mutationFn: (spring: FoundSpring) =>
      answer(
        client.POST("/api/designs", { body: { recipe: spring.recipe as unknown as AnyRecipe } }),
      ),
    onSuccess: (design) => navigate(`/designs/${design.id}`),
  });
  const field = (label: string, place: Place, suffix: string) => {
    const problem = problems.find((p) => p.place === place);
    return (
      <TextField
        fullWidth
        label={label}
        value={typed[place]}
        error={Boolean(problem)}
        helperText={problem ? `${problem.reason}; ${problem.remedy}` : undefined}
        onChange={(event) => setTyped({ ...typed, [place]: event.target.value })}
        slotProps={{
          htmlInput: { style: { textAlign: "right" } },
          input: { endAdornment: <InputAdornment position="end">{suffix}</InputAdornment> },
        }}
      />
    );
  };
  const elsewhere = problems.filter((p) => !(p.place in FIRST));
  return (
    <FinderPage title="Spring finder" left={352}>
      <Stack
        spacing={1.25}
        tabIndex={0}
        role="region"
        aria-label="What the spring has to do"
        sx={{ p: 1.5, borderRight: 1, borderColor: "divider", overflowY: "auto", minHeight: 0 }}
      >
        <Typography variant="h3" component="h2">
          The space
        </Typography>
        <Stack direction="row" spacing={1}>
          <Choice
            label="Unit"
            value={unit}
            options={UNITS}
            onChange={(next) => setUnit(next as LengthUnit)}
          />
          {field("Air to keep", "/gap", unit)}
        </Stack>
        <Stack direction="row" spacing={1}>
          {field("Bore around it", "/bore", unit)}
          {field("Rod inside it", "/rod", unit)}
        </Stack>
        {field("Longest when free", "/longest", unit)}
        <Typography variant="h3" component="h2">
          The loads
        </Typography>
        {([0, 1] as const).map((k) => (
          <Stack key={k} direction="row" spacing={1}>
            {field(k ? "Second length" : "First length", `/loads/${k}/length`, unit)}
            {field(k ? "Second force" : "First force", `/loads/${k}/force`, "N")}
          </Stack>
        ))}
        <Stack direction="row" spacing={1}>
          {field("Life, cycles", "/cycles", "")}
          <FormControlLabel
            sx={{ width: "100%" }}
            control={<Switch size="small" checked={peened} onChange={(_, on) => setPeened(on)} />}
            label="shot-peened"
          />
        </Stack>
        <Choice
          label="Its ends are"
          value={seat}
          options={SEATS}
          onChange={(next) => setSeat(next as Seat)}
        />
        <Typography variant="h3" component="h2">
          The wire
        </Typography>
        <Autocomplete
          multiple
          options={wires.map((wire) => wire.name)}
          value={names}
          onChange={(_, next) => setNames(next)}
          renderInput={(params) => (
            <TextField {...params} label="Of these wires, or of any" placeholder="any" />
          )}
        />
        <TextField
          label="Wire on hand, diameters"
          placeholder="2; 2.5; 3"
          value={onHand}
          onChange={(event) => setOnHand(event.target.value)}
        />
        <Choice label="Best is" value={rank} options={RANKS} onChange={setRank} />
      </Stack>
      <Stack sx={{ minHeight: 0, minWidth: 0 }}>
        <Box sx={{ height: 4 }}>
          {found.isFetching && <LinearProgress aria-label="Searching" />}
        </Box>
        <Stack direction="row" spacing={2} sx={{ alignItems: "center", px: 2, py: 1 }}>
          <Typography sx={{ flex: 1 }}>
            {found.data && !found.error && (
              <>
                Both loads set a rate of {digits(found.data.rate)} N/mm and a free length of{" "}
                {lengthText(found.data.free_length, unit)}.
              </>
            )}
          </Typography>
          <Button
            variant="contained"
            disabled={!chosen || take.isPending}
            onClick={() => chosen && take.mutate(chosen)}
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
          <Stack spacing={1} role="status" sx={{ px: 2, maxWidth: 620 }}>
            <Typography variant="h2">No spring does that</Typography>
            {found.data.nearest ? (
              <Typography>
                The nearest is {digits(found.data.nearest.thickness)} mm {found.data.nearest.wire}{" "}
                on a mean diameter of {digits(found.data.nearest.diameter)} mm: it uses{" "}
                {digits(100 * found.data.nearest.use, 3)} % of “{found.data.nearest.limit}”. Give it
                more room, less force, or a shorter life.
              </Typography>
            ) : (
              <Typography>No wire fits between rod and bore. Give it more room.</Typography>
            )}
          </Stack>
        )}
        {springs.length > 0 && (
          <Box
            tabIndex={0}
            role="region"
            aria-label="Springs that do it"
            sx={{ overflow: "auto", minHeight: 0, px: 2 }}
          >
            <Table size="small" stickyHeader aria-label="Springs">
              <TableHead>
                <TableRow>
                  <TableCell>Wire</TableCell>
                  {["⌀ wire", "⌀ mean", "Turns", "Mass", "Stress", "Most used limit"].map(
                    (name) => (
                      <TableCell key={name} align="right">
                        {name}
                      </TableCell>
                    ),
                  )}
                </TableRow>
              </TableHead>
              <TableBody>
                {springs.map((spring, index) => (
                  <TableRow
                    key={index}
                    hover
                    selected={spring === chosen}
                    onClick={() => setPicked(index)}
                    sx={{ cursor: "pointer", "& td": { fontVariantNumeric: "tabular-nums" } }}
                  >
                    <TableCell>
                      <button
                        type="button"
                        className="plain-action"
                        aria-pressed={spring === chosen}
                        style={{ color: spring === chosen ? colours.copper : undefined }}
                        onClick={() => setPicked(index)}
                      >
                        {spring.wire}
                      </button>
                      {spring.on_hand && " (on hand)"}
                    </TableCell>
                    <TableCell align="right">{digits(spring.thickness)} mm</TableCell>
                    <TableCell align="right">{digits(spring.diameter)} mm</TableCell>
                    <TableCell align="right">{digits(spring.turns, 4)}</TableCell>
                    <TableCell align="right">{digits(spring.mass, 4)} g</TableCell>
                    <TableCell align="right">{digits(spring.stress, 4)} MPa</TableCell>
                    <TableCell align="right">
                      {spring.limit}, {digits(100 * spring.use, 3)} %
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
            <Typography variant="caption" color="text.secondary" sx={{ display: "block", py: 1 }}>
              Closed and ground ends, cold coiled, after EN 13906-1; every one is drawn turn by turn
              and meets both forces within half a percent.
            </Typography>
          </Box>
        )}
      </Stack>
    </FinderPage>
  );
}

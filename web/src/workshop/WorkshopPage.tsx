import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  answer,
  client,
  keepFile,
  keepReadings,
  type AnyRecipe,
  type Design,
  type LoadTest,
  type Recipe,
  type Wound,
} from "../api/client";
import { BesideBench, DesignPage } from "../beside/BesideBench";
import { BothShapes } from "../compare/BothShapes";
import { digits, shownAlike, told, unitShown, type LengthUnit } from "../look/numbers";
import { LoadCurve } from "./LoadCurve";
import { SettingsCurve } from "./SettingsCurve";
import { DataTable } from "../look/DataTable";
import { Named } from "../look/Named";

/** What a workshop needs to wind the part, tried on simulated devices that ship with Metaspira. */
export function WorkshopPage() {
  return <DesignPage>{(design) => <Workshop key={design.revision} design={design} />}</DesignPage>;
}

function Workshop({ design }: { design: Design }) {
  const recipe = design.recipe as unknown as Recipe;
  const unit = (recipe.unit ?? "mm") as LengthUnit;
  const [seed, setSeed] = useState("1");
  const [scatter, setScatter] = useState("2");
  const { data: table, error } = useQuery({
    queryKey: ["coiling", design.id, design.revision],
    queryFn: () => answer(client.POST("/api/workshop/coiling", { body: recipe })),
    refetchOnWindowFocus: false,
    retry: false,
  });
  const trial = () => ({
    recipe,
    seed: Math.max(0, Math.round(Number(seed)) || 0),
    scatter: Math.min(Math.max((Number(scatter) || 0) / 100, 0), 0.2),
  });
  const keep = useMutation({ mutationFn: () => keepFile("coiling.csv", recipe) });
  const wind = useMutation({
    mutationFn: () => answer(client.POST("/api/workshop/wind", { body: trial() })),
  });
  const load = useMutation({
    mutationFn: () => answer(client.POST("/api/workshop/load", { body: trial() })),
  });
  const readings = useMutation({ mutationFn: () => keepReadings(trial()) });
  const trouble = error ?? keep.error ?? wind.error ?? load.error ?? readings.error;
  return (
    <BesideBench
      design={design}
      title="Winding"
      rightWidth={360}
      left={
        <>
          <Typography variant="h2">Coiling table</Typography>
          {table && (
            <>
              <Typography variant="body2">
                {table.count} rows of feed, diameter and pitch. Springback by E{" "}
                {digits(table.modulus / 1000, 4)} GPa and a flow stress of {digits(table.flow, 4)}{" "}
                MPa, {table.source}.
              </Typography>
              <Button variant="contained" disabled={keep.isPending} onClick={() => keep.mutate()}>
                Take the table, CSV
              </Button>
            </>
          )}
          {trouble && (
            <Typography variant="body2" color="error" role="alert" sx={{ whiteSpace: "pre-line" }}>
              {trouble.message}
            </Typography>
          )}
          <Box component="fieldset" sx={{ border: 1, borderColor: "divider", p: 1.25, m: 0 }}>
            <Typography component="legend" variant="h3" sx={{ px: 0.5 }}>
              Simulated devices
            </Typography>
            <Stack spacing={1.25}>
              <Typography variant="body2">
                Nothing is wound or pressed here. The former takes the table alone; both devices add
                the faults of real ones by a seed.
              </Typography>
              <Stack direction="row" spacing={1}>
                <TextField
                  label="Seed"
                  value={seed}
                  onChange={(event) => setSeed(event.target.value)}
                  slotProps={{ htmlInput: { style: { textAlign: "right" } } }}
                />
                <TextField
                  label="Scatter, %"
                  value={scatter}
                  onChange={(event) => setScatter(event.target.value)}
                  slotProps={{ htmlInput: { style: { textAlign: "right" } } }}
                />
              </Stack>
              <Button
                variant="outlined"
                disabled={!table || wind.isPending}
                onClick={() => wind.mutate()}
              >
                Wind it on the simulated former
              </Button>
              {hasForce(recipe) && (
                <Button variant="outlined" disabled={load.isPending} onClick={() => load.mutate()}>
                  Load it on the simulated tester
                </Button>
              )}
            </Stack>
          </Box>
        </>
      }
      right={
        <>
          {wind.data && <Measured wound={wind.data} unit={unit} />}
          {load.data && (
            <>
              <Loaded test={load.data} unit={unit} />
              <Button
                variant="outlined"
                disabled={readings.isPending}
                onClick={() => readings.mutate()}
              >
                Take the readings, CSV
              </Button>
            </>
          )}
          {!wind.data && !load.data && (
            <Typography variant="body2" color="text.secondary">
              What the simulated devices measure stands here, beside the design.
            </Typography>
          )}
        </>
      }
    >
      <Middle recipe={recipe} wound={wind.data} rows={table?.rows ?? null} unit={unit} />
    </BesideBench>
  );
}

function hasForce(recipe: Recipe): boolean {
  return recipe.spring?.kind === "compression" || recipe.spring?.kind === "extension";
}

function Middle(props: {
  recipe: Recipe;
  wound: Wound | undefined;
  rows: number[][] | null;
  unit: LengthUnit;
}) {
  const { recipe, wound, rows, unit } = props;
  return (
    <Box sx={{ minWidth: 0, display: "grid", gridTemplateRows: "280px minmax(0, 1fr)" }}>
      <Box sx={{ p: 1.5 }}>{rows && <SettingsCurve rows={rows} unit={unit} />}</Box>
      <Box sx={{ display: "grid", minHeight: 0, borderTop: 1, borderColor: "divider" }}>
        {wound && (
          <BothShapes
            before={recipe as AnyRecipe}
            after={wound.recipe as unknown as AnyRecipe}
            names={["design", "wound, simulated"]}
          />
        )}
      </Box>
    </Box>
  );
}

function Measured({ wound, unit }: { wound: Wound; unit: LengthUnit }) {
  return (
    <Box>
      <Typography variant="h2">Measured, without legs</Typography>
      <Typography variant="caption">{wound.simulated}</Typography>
      <DataTable
        label="Measured beside the design"
        heads={["", "design", "measured", "off"]}
        strong={2}
        rows={wound.figures.map((row) => {
          const { numbers, unit: its } = shownAlike([row.design, row.measured], row.unit, unit);
          const off = row.design ? (100 * (row.measured - row.design)) / row.design : null;
          return {
            key: row.name,
            cells: [
              <Named title={row.title} unit={its} />,
              ...numbers,
              off === null ? "" : `${digits(off, 3)} %`,
            ],
          };
        })}
      />
    </Box>
  );
}

type Shown = ReturnType<typeof unitShown>;

function Loaded({ test, unit }: { test: LoadTest; unit: LengthUnit }) {
  const [length, force] = (["mm", "N"] as const).map((base) => unitShown(base, unit)) as [
    Shown,
    Shown,
  ];
  return (
    <Box>
      <Typography variant="h2">Loaded</Typography>
      <Typography variant="caption">{test.simulated}</Typography>
      <LoadCurve test={test} length={length} force={force} />
      <Typography variant="body2">
        Rate <strong>{told(test.rate, "N/mm", unit, 4)}</strong>, calculated{" "}
        {told(test.calculated_rate, "N/mm", unit, 4)},{" "}
        {digits((100 * (test.rate - test.calculated_rate)) / test.calculated_rate, 3)} % off.
      </Typography>
      <DataTable
        label="Readings of the load tester"
        heads={[
          `length ${length.unit}`,
          ...["going", "back", "calculated"].map((word) => `${word} ${force.unit}`),
        ]}
        words={[]}
        rows={test.readings.map((row) => ({
          key: String(row.length),
          cells: [
            digits(row.length / length.size),
            ...[row.going, row.back, row.calculated].map((one) => digits(one / force.size, 4)),
          ],
        }))}
      />
    </Box>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answer, client, type Scatter } from "../../api/client";
import { digits, shownAlike, told, type LengthUnit } from "../../look/numbers";
import { useUnit, useWoundTold } from "../PartContext";
import { ValueField } from "../ValueField";
import { DataTable } from "../../look/DataTable";
import { Beneath } from "../../look/Beneath";

type Kept = Scatter["kept"][number];
type Spread = Scatter["spreads"][number];

/** What the tolerances of its wire and its coiling come to in the springs that are made; each may be typed. */
export function ScatterPanel() {
  const part = useWoundTold();
  const [open, setOpen] = useState(false);
  const recipe = useDeferredValue(part.reported);
  const scatter = useQuery({
    queryKey: ["scatter", recipe],
    queryFn: ({ signal }) => answer(client.POST("/api/springs/scatter", { body: recipe!, signal })),
    enabled: open && recipe !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return (
    <Stack spacing={0.5} component="section" aria-label="Springs that are made">
      <Button variant="outlined" aria-expanded={open} onClick={() => setOpen(!open)}>
        Carry the tolerances through
      </Button>
      {open && scatter.error && (
        <Typography variant="body2" role="alert">
          {scatter.error.message}.
        </Typography>
      )}
      {open && !scatter.error && scatter.data && <Made found={scatter.data} />}
    </Stack>
  );
}

function Made({ found }: { found: Scatter }) {
  const unit = useUnit();
  const worst = found.kept.reduce((most, one) => (one.cost > most.cost ? one : most));
  return (
    <>
      {found.within !== null && (
        <Typography variant="body2" role="status">
          <strong>{digits(100 * found.within, 4)} %</strong> of {found.made.toLocaleString("en")}{" "}
          springs made at random keep all their loads ({found.limits}). {worst.title} costs most,{" "}
          {digits(100 * worst.cost, 2)} %.
          {found.shrunk !== null &&
            ` For 99.7 % every tolerance may be × ${digits(found.shrunk, 3)}.`}
        </Typography>
      )}
      <DataTable
        label="Tolerances that are kept"
        heads={["", "typed ±", "costs", "for 99.7 %"]}
        rows={found.kept.map((one) => ({
          key: one.key,
          cells: [
            <>
              {one.title} ± {amount(one, one.either, unit)}
              <Beneath>{one.source}</Beneath>
            </>,
            <Box sx={{ width: 64 }}>
              <ValueField
                place={`/spring/made/${one.key}`}
                label=""
                name={`${one.title}, typed tolerance`}
                dense
              />
            </Box>,
            `${digits(100 * one.cost, 2)} %`,
            one.needed === null ? "–" : `± ${amount(one, one.needed, unit)}`,
          ],
        }))}
      />
      <Box sx={{ pt: 1 }}>
        <ValueField place="/spring/made/load" label="Allowed of each load, ±" />
      </Box>
      <DataTable
        label="Figures of the springs that are made"
        heads={["", "99.73 % of them"]}
        rows={found.spreads.map((one) => ({
          key: `${one.title} ${one.at}`,
          cells: [
            <>
              {one.at === null ? one.title : `${one.title} at ${told(one.at, one.at_unit, unit)}`}
              {one.within !== null && (
                <Beneath>{digits(100 * one.within, 4)} % within limits</Beneath>
              )}
            </>,
            <>
              <strong>{range(one, one.random, unit)}</strong>
              <Beneath>worst case {range(one, one.worst, unit)}</Beneath>
            </>,
          ],
        }))}
      />
      <Typography variant="caption" color="text.secondary">
        Each input by the normal distribution, three standard deviations to its tolerance (common
        practice, no source); the root of squares is told by the command line.
      </Typography>
    </>
  );
}

function amount({ unit: own }: Kept, value: number, unit: LengthUnit): string {
  return told(value, own, unit, own === "mm" ? undefined : 3);
}

function range(spread: Spread, [low, high]: Spread["random"], unit: LengthUnit): string {
  const most = spread.unit === "mm" ? undefined : 4;
  const { numbers, unit: its } = shownAlike([low!, high!], spread.unit, unit, most);
  return `${numbers.join(" … ")} ${its}`;
}

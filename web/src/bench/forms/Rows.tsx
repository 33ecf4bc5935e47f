import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { ValueField } from "../ValueField";

export interface Column {
  label: string;
  unit: string;
  step?: number;
}

interface Props {
  title: string;
  /** JSON pointer of the list. */
  place: string;
  columns: readonly Column[];
  /** A row that follows the rows there are. */
  next: (rows: readonly (number | string)[][]) => (number | string)[];
  least: number;
  note?: (index: number) => ReactNode;
}

/** A list of points, each a row of numbers: typed, added, removed. */
export function Rows({ title, place, columns, next, least, note }: Props) {
  const rows = (useRecipe((state) => at(state.recipe, place)) ?? []) as (number | string)[][];
  const set = useRecipe((state) => state.set);
  const insert = (index: number) =>
    set(place, [...rows.slice(0, index), next(rows.slice(0, index)), ...rows.slice(index)]);
  return (
    <Stack spacing={0.75} component="section" aria-label={title}>
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h3">
          {title}
        </Typography>
        <Button variant="text" onClick={() => insert(rows.length)}>
          Add
        </Button>
      </Stack>
      {rows.map((row, index) => (
        <Box key={index}>
          <Stack direction="row" spacing={0.5} sx={{ alignItems: "center" }}>
            <Typography variant="caption" sx={{ width: 16, flex: "none", textAlign: "right" }}>
              {index + 1}
            </Typography>
            {columns.slice(0, Math.max(row.length, 2)).map((column, k) => (
              <ValueField
                key={column.label}
                label={`${column.label}`}
                name={`${title} ${index + 1}, ${column.label}`}
                place={`${place}/${index}/${k}`}
                unit={column.unit}
                step={column.step}
                dense
              />
            ))}
            <button
              type="button"
              className="plain-action"
              disabled={rows.length <= least}
              onClick={() =>
                set(
                  place,
                  rows.filter((_, i) => i !== index),
                )
              }
              aria-label={`Remove ${title.toLowerCase()} ${index + 1}`}
              title="Remove"
            >
              ✕
            </button>
          </Stack>
          {note?.(index)}
        </Box>
      ))}
    </Stack>
  );
}

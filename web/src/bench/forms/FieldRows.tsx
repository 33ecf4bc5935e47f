import Stack from "@mui/material/Stack";
import { useBench } from "../PartContext";
import { ValueField } from "../ValueField";
import type { Field, Measure } from "./kinds";

const STEP: Record<Measure, number> = { length: 0.1, angle: 5, count: 1, factor: 0.05, turns: 0.5 };

/** The fields of a kind, two in a row. */
export function FieldRows({ fields, place }: { fields: readonly Field[]; place: string }) {
  const { unit } = useBench();
  const suffix: Record<Measure, string> = {
    length: unit,
    angle: "°",
    count: "",
    factor: "×",
    turns: "",
  };
  const rows = Array.from({ length: Math.ceil(fields.length / 2) }, (_, i) =>
    fields.slice(2 * i, 2 * i + 2),
  );
  return rows.map((row) => (
    <Stack key={row[0]![1]} direction="row" spacing={1}>
      {row.map(([label, key, measure, optional]) => (
        <ValueField
          key={key}
          label={label}
          place={`${place}/${key}`}
          unit={suffix[measure]}
          step={STEP[measure]}
          optional={optional === "optional"}
        />
      ))}
    </Stack>
  ));
}

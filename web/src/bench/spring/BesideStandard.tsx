import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { type Spring } from "../../api/client";
import { lengthText, told } from "../../look/numbers";
import { useUnit } from "../PartContext";
import { difference } from "./difference";
import { effortText, placeText } from "./words";
import { DataTable } from "../../look/DataTable";

/** By which rules the figures are, and beside them what the contact of the drawn turns makes of them. */
export function BesideStandard({ spring }: { spring: Spring }) {
  const unit = useUnit();
  const drawn = spring.as_drawn;
  if (!spring.rules) return null;
  const rows: [string, number, number, (value: number) => string][] = drawn
    ? [
        ["Rate", spring.rate, drawn.rate, (value) => told(value, "N/mm", unit)],
        [
          "Solid length",
          spring.solid_length!,
          drawn.solid_length!,
          (value) => lengthText(value, unit),
        ],
        ...spring.loads.map((load, index): (typeof rows)[number] => {
          const other = drawn.loads[index]!;
          const byForce = Math.abs(other.effort - load.effort) < 1e-9 && load.place !== other.place;
          return byForce
            ? [
                `Length at ${effortText(spring, load.effort, unit)}`,
                load.place,
                other.place,
                (value) => lengthText(value, unit),
              ]
            : [
                `Force at ${placeText(spring, load.place, unit)}`,
                load.effort,
                other.effort,
                (value) => effortText(spring, value, unit),
              ];
        }),
      ]
    : [];
  return (
    <Stack component="section" aria-label="Standard and as drawn" spacing={0.5}>
      <Typography variant="h3" component="h3">
        {drawn ? "Standard and as drawn" : "As drawn"}
      </Typography>
      <Typography variant="caption" color="text.secondary">
        {drawn
          ? `The figures are those of ${spring.rules_words}. As drawn (dashed), its ends give at first, and its turns touch one after the other.`
          : "The figures come from the contact of its drawn turns."}
        {spring.rules_why && ` Not otherwise, since ${spring.rules_why}.`}
      </Typography>
      {drawn && (
        <DataTable
          heads={["", spring.rules === "handbook" ? "handbook" : "standard", "as drawn", ""]}
          strong={1}
          rows={rows.map(([title, ours, other, text]) => ({
            key: title,
            cells: [title, text(ours), text(other), difference(ours, other)],
          }))}
        />
      )}
    </Stack>
  );
}

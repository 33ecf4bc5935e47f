import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { type Comparison, type Held } from "../api/client";
import { shownAlike, type LengthUnit } from "../look/numbers";
import { VerdictLabel, type VerdictWord } from "../look/Verdict";
import { DataTable } from "../look/DataTable";
import { Named } from "../look/Named";

export function Figures({ found, unit }: { found: Comparison; unit: LengthUnit }) {
  const [before, after] = found.verdicts as unknown as [VerdictWord, VerdictWord];
  return (
    <Stack spacing={1.5}>
      <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
        <VerdictLabel verdict={before} />
        <span aria-hidden="true">→</span>
        <VerdictLabel verdict={after} />
      </Stack>
      {found.checks.map((check) => (
        <Box key={check.id}>
          <Typography variant="body2">{check.title}</Typography>
          <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
            {[check.before, check.after].map((verdict, index) =>
              verdict ? (
                <VerdictLabel key={index} verdict={verdict as VerdictWord} />
              ) : (
                <Typography key={index} variant="body2" color="text.secondary">
                  not asked
                </Typography>
              ),
            )}
          </Stack>
        </Box>
      ))}
      <FiguresTable
        rows={found.figures}
        unit={unit}
        label="Figures that changed"
        heads={["before", "after"]}
      />
    </Stack>
  );
}

export function FiguresTable(props: {
  rows: Held["figures"];
  unit: LengthUnit;
  label: string;
  heads: [string, string];
}) {
  const { rows, unit, label, heads } = props;
  return (
    <DataTable
      label={label}
      heads={["", ...heads, "change"]}
      strong={2}
      rows={rows.map((row) => {
        const { numbers, unit: its } = shownAlike([row.before, row.after], row.unit, unit);
        return {
          key: row.name,
          cells: [<Named title={row.title} unit={its} />, ...numbers, change(row, unit)],
        };
      })}
    />
  );
}

/** A difference of less than this share of what it is of is rounding. */
const ROUNDING = 1e-7;

/** By how much a figure differs, with its sign. */
export function change(row: Comparison["figures"][number], unit: LengthUnit): string {
  if (row.before === null || row.after === null) return "";
  const difference = row.after - row.before;
  const most = Math.max(Math.abs(row.before), Math.abs(row.after));
  if (Math.abs(difference) < ROUNDING * most) return "0";
  const off = shownAlike([difference, row.after, row.before], row.unit, unit).numbers[0]!;
  return difference > 0 && off !== "0" ? `+${off}` : off;
}

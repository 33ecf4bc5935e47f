import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { FoundSpring } from "../api/client";
import { DataTable } from "../look/DataTable";
import { told, type LengthUnit } from "../look/numbers";
import { differences, FIGURES } from "./beside";

interface Props {
  unit: LengthUnit;
  springs: FoundSpring[];
  onLeave: () => void;
  onTake: (spring: FoundSpring) => void;
}

/** Two or three springs, figure by figure, and by how much each departs from the first. */
export function SideBySide({ unit, springs, onLeave, onTake }: Props) {
  const rows = FIGURES.filter(({ of }) => springs.some((spring) => of(spring) !== null));
  return (
    <Box component="section" aria-label="Side by side" sx={{ px: 2, pb: 1, flex: "none" }}>
      <Stack direction="row" sx={{ alignItems: "center", justifyContent: "space-between" }}>
        <Typography variant="h3" component="h2">
          Side by side
        </Typography>
        <Button variant="text" onClick={onLeave}>
          Back to the plot
        </Button>
      </Stack>
      <DataTable
        label="Springs side by side"
        heads={[
          "",
          ...springs.flatMap((spring, k) => [
            <Button
              key={k}
              variant="text"
              sx={{ py: 0, minHeight: 0 }}
              onClick={() => onTake(spring)}
              aria-label={`Put ${spring.wire} ⌀ ${told(spring.wire_diameter, "mm", unit)} on the bench`}
            >
              {spring.wire}
            </Button>,
            ...(k ? [""] : []),
          ]),
        ]}
        quiet={springs.slice(1).map((_, k) => 3 + 2 * k)}
        rows={rows.map(({ title, base, of, most }) => {
          const values = springs.map(of);
          const off = differences(values);
          const cells = values.flatMap((value, k) => {
            const own = value === null ? "–" : told(value, base, unit, most);
            return k ? [own, off[k]] : [own];
          });
          return { key: title, cells: [title, ...cells] };
        })}
      />
    </Box>
  );
}

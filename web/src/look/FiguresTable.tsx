import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../api/client";
import { told, type LengthUnit } from "./numbers";
import { FIGURES_TABLE } from "./tables";

interface Props {
  label: string;
  figures: Schemas["Told"][];
  unit: LengthUnit;
}

/** Figures, each with its formula and source. */
export function FiguresTable({ label, figures, unit }: Props) {
  return (
    <Box component="table" aria-label={label} sx={FIGURES_TABLE}>
      <tbody>
        {figures.map((figure) => (
          <tr key={figure.key}>
            <td>
              {figure.title}
              <Typography
                variant="caption"
                color="text.secondary"
                sx={{ display: "block", lineHeight: 1.3 }}
              >
                {figure.symbol && `${figure.symbol} = `}
                {figure.formula}; {figure.source}
              </Typography>
            </td>
            <Box
              component="td"
              sx={{ textAlign: "right", fontWeight: 600, whiteSpace: "nowrap", pl: 1 }}
            >
              {figure.value === null ? "–" : told(figure.value, figure.unit, unit)}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

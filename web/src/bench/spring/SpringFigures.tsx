import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { type Spring } from "../../api/client";
import { told } from "../../look/numbers";
import { FIGURES_TABLE } from "../../look/tables";
import { usePartContext } from "../PartContext";

/** Every figure with its formula, inputs and source. */
export function Figures({ spring }: { spring: Spring }) {
  const { unit } = usePartContext();
  return (
    <Box component="table" aria-label="Figures of the spring" sx={FIGURES_TABLE}>
      <tbody>
        {spring.figures.map((figure) => (
          <tr key={figure.key}>
            <td>
              {figure.title}
              <Typography
                variant="caption"
                color="text.secondary"
                sx={{ display: "block", lineHeight: 1.3 }}
              >
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

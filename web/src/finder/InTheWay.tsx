import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { FoundSprings } from "../api/client";
import { digits, told, type LengthUnit } from "../look/numbers";

/** Nothing was found: which limits are in the way, and what would free them. */
export function InTheWay({ found, unit }: { found: FoundSprings; unit: LengthUnit }) {
  const { nearest, blocking } = found;
  return (
    <Stack spacing={1} role="status" sx={{ px: 2, maxWidth: 620 }}>
      <Typography variant="h2">No spring meets this</Typography>
      {nearest ? (
        <>
          <Typography>
            The nearest is {told(nearest.wire_diameter, "mm", unit)} {nearest.wire} on a mean
            diameter of {told(nearest.mean_diameter, "mm", unit, 4)}
            {nearest.inner &&
              `, and in it ${told(nearest.inner.wire_diameter, "mm", unit)} on ${told(nearest.inner.mean_diameter, "mm", unit, 4)}`}
            . In its way:
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {blocking.map((one) => (
              <li key={one.limit}>
                {one.limit}, {digits(100 * one.use, 3)} % of it used; it takes {one.free}
              </li>
            ))}
          </Box>
        </>
      ) : (
        <Typography>No wire of those fits there. Allow others, or give it more room.</Typography>
      )}
    </Stack>
  );
}

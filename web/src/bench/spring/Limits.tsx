import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { type Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";
import { useWoundTold } from "../PartContext";

const SCALE = 1.25;

/** How much of each limit is used, on one scale, the most used first. */
export function Limits({ spring }: { spring: Spring }) {
  const { colours } = useLook();
  const part = useWoundTold();
  const verdicts = Object.fromEntries(
    (part.report?.checks ?? []).map((check) => [check.id, check.verdict]),
  );
  return (
    <Stack component="section" aria-label="Limits" spacing={0.5}>
      <Typography variant="h3" component="h3">
        How much of each limit is used
      </Typography>
      {spring.limits.map((limit) => (
        <Box
          key={limit.id}
          sx={{
            display: "grid",
            gridTemplateColumns: "128px 1fr 46px",
            columnGap: 1,
            alignItems: "center",
            fontSize: "0.82rem",
            fontVariantNumeric: "tabular-nums",
          }}
        >
          <span>{limit.title}</span>
          <Box
            aria-hidden="true"
            sx={{ position: "relative", height: 9, bgcolor: colours.line, borderRadius: 0.5 }}
          >
            <Box
              sx={{
                position: "absolute",
                inset: 0,
                right: `${100 - (100 * Math.min(limit.use, SCALE)) / SCALE}%`,
                bgcolor: colours[verdicts[limit.id] ?? "clear"],
              }}
            />
            <Box
              sx={{
                position: "absolute",
                top: -2,
                bottom: -2,
                left: `${100 / SCALE}%`,
                borderLeft: `2px solid ${colours.ink}`,
              }}
            />
          </Box>
          <Box component="span" sx={{ textAlign: "right", fontWeight: 600 }}>
            {digits(100 * limit.use, 3)} %
          </Box>
        </Box>
      ))}
    </Stack>
  );
}

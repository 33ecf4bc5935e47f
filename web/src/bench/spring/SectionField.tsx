import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import type { ExactElasticity } from "../../api/client";
import { useLook } from "../../look/Look";
import { told } from "../../look/numbers";
import { useUnit } from "../PartContext";
import { capital } from "../../look/words";

const SIZE = 150;

/** The stress over the section of the wire, light where there is little, and where it is greatest. */
export function SectionField({ found }: { found: ExactElasticity }) {
  const { colours } = useLook();
  const unit = useUnit();
  const { places, corners, field, stress, most_at: most } = found;
  const [us, vs] = [places.map((at) => at[0]!), places.map((at) => at[1]!)];
  const [left, right] = [Math.min(...us), Math.max(...us)];
  const [low, high] = [Math.min(...vs), Math.max(...vs)];
  const scale = (SIZE - 16) / Math.max(right - left, high - low);
  const x = (u: number) => 8 + (u - left) * scale;
  const y = (v: number) => 8 + (high - v) * scale;
  const greatest = Math.max(...field);
  const wide = (right - left) * scale + 16;
  return (
    <Stack direction="row" spacing={2} sx={{ alignItems: "center", justifyContent: "center" }}>
      <svg
        width={wide}
        height={(high - low) * scale + 16}
        role="img"
        aria-label={`${capital(stress)} over the section, greatest ${told(greatest, "MPa", unit)}`}
      >
        {corners.map((corner, index) => {
          const mean = corner.reduce((sum, k) => sum + field[k]!, 0) / 3 / greatest;
          const shade = `color-mix(in srgb, ${colours.copper} ${(100 * mean).toFixed(0)}%, ${colours.sheet})`;
          return (
            <polygon
              key={index}
              points={corner.map((k) => `${x(us[k]!)},${y(vs[k]!)}`).join(" ")}
              fill={shade}
              stroke={shade}
              strokeWidth={0.8}
            />
          );
        })}
        <circle
          cx={x(most[0]!)}
          cy={y(most[1]!)}
          r={4.5}
          fill="none"
          stroke={colours.ink}
          strokeWidth={2}
        />
      </svg>
      <Box sx={{ fontSize: "0.78rem", fontVariantNumeric: "tabular-nums" }}>
        {told(greatest, "MPa", unit, 4)}
        <br />
        at the ring
      </Box>
    </Stack>
  );
}

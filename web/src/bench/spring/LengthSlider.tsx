import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { useLook } from "../../look/Look";
import { digits, lengthText } from "../../look/numbers";
import { useDesk } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { forceAt } from "./curve";

const STROKE_MS = 2600;

/** The length that the spring is shown pressed to, by hand or played between free and its shortest place. */
export function LengthSlider() {
  const { part, unit } = usePartContext();
  const { colours } = useLook();
  const pressed = useDesk((state) => state.pressed);
  const press = useDesk((state) => state.press);
  const [playing, setPlaying] = useState(false);
  const spring = part.report?.spring;
  const free = spring?.free_length ?? 0;
  const solid = spring?.solid_length ?? 0;
  const shortest = Math.max(
    solid,
    Math.min(...(spring?.loads.length ? spring.loads.map((load) => load.length) : [solid])),
  );
  useEffect(() => {
    if (!playing || !spring) return;
    let frame = 0;
    let start: number | null = null;
    const step = (now: number) => {
      start ??= now;
      const share = 0.5 - 0.5 * Math.cos((2 * Math.PI * (now - start)) / STROKE_MS);
      press(free + (shortest - free) * share);
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, free, shortest, spring, press]);
  if (!spring) return null;
  const length = Math.min(Math.max(pressed ?? free, solid), free);
  return (
    <Stack
      direction="row"
      role="group"
      aria-label="Under load"
      spacing={2}
      sx={{
        position: "absolute",
        bottom: 8,
        left: 10,
        right: 10,
        alignItems: "center",
        bgcolor: colours.sheet,
        px: 1.5,
      }}
    >
      <Button variant="text" onClick={() => setPlaying(!playing)} sx={{ minWidth: 52 }}>
        {playing ? "Hold" : "Play"}
      </Button>
      <Slider
        size="small"
        aria-label="Length under load"
        min={0}
        max={free - solid}
        step={(free - solid) / 400}
        value={free - length}
        marks={spring.loads.map((load) => ({ value: load.deflection }))}
        getAriaValueText={(value) => lengthText(free - value, unit)}
        onChange={(_, value) => {
          setPlaying(false);
          press(value > 0 ? free - value : null);
        }}
      />
      <Typography variant="body2" sx={{ whiteSpace: "nowrap", minWidth: 210, textAlign: "right" }}>
        {lengthText(length, unit)}, {digits(forceAt(spring.curve, length))} N, drawn true to size
      </Typography>
    </Stack>
  );
}

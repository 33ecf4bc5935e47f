import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useCallback, useEffect, useState } from "react";
import { useLook } from "../../look/Look";
import { told } from "../../look/numbers";
import { useDesk } from "../../state/bench";
import { useUnit, useWoundTold } from "../PartContext";
import { shadeOf } from "../geometry";
import { forceAt } from "./curve";
import { effortText, placeText } from "./words";

const STROKE_MS = 2600;

/** How many times the movement is drawn as large. */
const SCALES = [1, 5, 20] as const;

/** The length or the angle that the spring is shown at, by hand or played between free and its hardest working point. */
export function LengthSlider() {
  const part = useWoundTold();
  const unit = useUnit();
  const { colours } = useLook();
  const pressed = useDesk((state) => state.pressed);
  const press = useDesk((state) => state.press);
  const step = useDesk((state) => state.step);
  const [playing, setPlaying] = useState(false);
  const [scale, setScale] = useState<number>(SCALES[0]);
  const spring = part.report?.spring;
  const allowed = spring?.figures.find((figure) => figure.key === "allowed")?.value;
  const free = spring?.first ?? 0;
  const last = spring?.last ?? 0;
  const way = Math.abs(last - free);
  const sign = Math.sign(last - free) || 1;
  const worked = (spring?.loads ?? []).map((load) => sign * (load.place - free));
  const stroke = worked.length ? Math.min(Math.max(...worked), way) : way;
  const move = useCallback(
    (moved: number, times: number) => {
      if (moved <= 0) press(null, null);
      else press(free + sign * moved, free + sign * Math.min(times * moved, way));
    },
    [press, free, sign, way],
  );
  useEffect(() => {
    if (!playing || !spring) return;
    let frame = 0;
    let start: number | null = null;
    const step = (now: number) => {
      start ??= now;
      const share = 0.5 - 0.5 * Math.cos((2 * Math.PI * (now - start)) / STROKE_MS);
      move(stroke * share, scale);
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, stroke, spring, move, scale]);
  if (!spring || (step !== "load" && pressed === null)) return null;
  const at = Math.min(Math.max(pressed === null ? 0 : sign * (pressed - free), 0), way);
  const length = free + sign * at;
  return (
    <Stack
      direction="row"
      role="group"
      aria-label="Under load"
      spacing={3}
      sx={{
        mt: 1,
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
        aria-label={spring.units[0] === "°" ? "Angle under load" : "Length under load"}
        min={0}
        max={way}
        step={way / 400}
        shiftStep={way / 20}
        value={at}
        marks={worked.map((value) => ({ value }))}
        getAriaValueText={(value) => placeText(spring, free + sign * value, unit)}
        onChange={(_, value) => {
          setPlaying(false);
          move(value, scale);
        }}
      />
      {step === "load" && spring.loads.length > 0 && allowed && (
        <Stack sx={{ flex: "none", width: 118 }}>
          <Box
            aria-hidden="true"
            sx={{
              height: 6,
              background: `linear-gradient(90deg, ${[0, 0.5, 1].map((t) => `#${shadeOf(t).getHexString()}`).join()})`,
            }}
          />
          <Typography variant="caption" sx={{ whiteSpace: "nowrap" }}>
            stress, to {told(allowed, "MPa", unit, 3)}
          </Typography>
        </Stack>
      )}
      <Typography
        variant="body2"
        sx={{ whiteSpace: "nowrap", flex: "none", width: 128, textAlign: "right" }}
      >
        {placeText(spring, length, unit)}, {effortText(spring, forceAt(spring.curve, length), unit)}
      </Typography>
      <Button
        variant="text"
        onClick={() => {
          const next = SCALES.find((larger) => larger > scale) ?? SCALES[0];
          setScale(next);
          move(at, next);
        }}
        sx={{ whiteSpace: "nowrap", flex: "none", width: 118 }}
      >
        {scale === 1 ? "drawn true to size" : `enlarged ${scale} times`}
      </Button>
    </Stack>
  );
}

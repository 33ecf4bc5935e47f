import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { type Spring } from "../../api/client";
import { digits, told, threeDigits } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { focusSoon } from "../focus";
import { useUnit } from "../PartContext";
import { ValueField } from "../ValueField";
import {
  TOLD,
  effortText,
  placeScale,
  placeText,
  toldBy,
  unitOf,
  type Asked,
  type Told,
} from "./words";
import { capital } from "../../look/words";

export function Points({ asked, spring }: { asked: Asked; spring: Spring | null }) {
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  const points: object[] = asked.points ?? [];
  const [place, effort] = TOLD[asked.kind];
  const scale = spring ? placeScale(spring, unit) : 1;
  const change = (index: number, told: Told) => {
    const load = spring?.loads[index];
    const at =
      told === "travel" ? Math.abs((load?.place ?? 0) - (spring?.first ?? 0)) : load?.place;
    const value = told === effort ? (load?.effort ?? 10) : (at ?? 10) / scale;
    set(`/spring/points/${index}`, { [told]: Number(value.toPrecision(4)) });
  };
  const add = () => {
    const middle = spring ? 0.5 * (spring.first + spring.last) : 10;
    set("/spring/points", [...points, { [place]: threeDigits(middle / scale) }]);
  };
  return (
    <Stack spacing={0.75} component="section" aria-label="Working points">
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h3">
          Working points
        </Typography>
        <Button variant="text" onClick={add} aria-label="Add a working point">
          Add
        </Button>
      </Stack>
      {points.map((point, index) => {
        const by = toldBy(asked.kind, point);
        const load = spring?.loads[index];
        return (
          <Box key={index}>
            <Stack direction="row" spacing={0.5} sx={{ alignItems: "center" }}>
              <Box sx={{ width: 104, flex: "none" }}>
                <Choice
                  label={`Point ${index + 1}`}
                  value={by}
                  options={TOLD[asked.kind].map((told) => [told, told] as const)}
                  onChange={(next) => change(index, next)}
                />
              </Box>
              <ValueField
                label={capital(by)}
                name={`Working point ${index + 1}, ${by}`}
                place={`/spring/points/${index}/${by}`}
                unit={unitOf(by, unit)}
                step={by === "length" || by === "travel" ? 0.1 : 1}
              />
              <button
                type="button"
                className="plain-action"
                onClick={() => {
                  set(
                    "/spring/points",
                    points.filter((_, i) => i !== index),
                  );
                  focusSoon('[aria-label="Add a working point"]');
                }}
                aria-label={`Remove working point ${index + 1}`}
                title="Remove"
              >
                ✕
              </button>
            </Stack>
            {spring && load && (
              <Typography
                variant="caption"
                color="text.secondary"
                sx={{ display: "block", textAlign: "right", pr: 3 }}
              >
                {by !== place
                  ? placeText(spring, load.place, unit)
                  : effortText(spring, load.effort, unit)}
                {", "}
                {told(load.stress, "MPa", unit, 4)}, {digits(100 * load.utilisation, 3)} % of what
                is allowed
                {load.left < load.effort && `; relaxed ${effortText(spring, load.left, unit)}`}
              </Typography>
            )}
          </Box>
        );
      })}
    </Stack>
  );
}

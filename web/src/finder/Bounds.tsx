import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Problem } from "../api/client";
import { Choice } from "../bench/Choice";
import type { LengthUnit } from "../look/numbers";
import { BOUNDED, type Bound } from "./duty";

interface Props {
  bounds: Bound[];
  unit: LengthUnit;
  problems: Problem[];
  onChange: (next: Bound[]) => void;
}

/** Between what the figures of a spring may lie, as many as are wanted. */
export function Bounds({ bounds, unit, problems, onChange }: Props) {
  const change = (index: number, part: Partial<Bound>) =>
    onChange(bounds.map((bound, k) => (k === index ? { ...bound, ...part } : bound)));
  return (
    <Stack spacing={1} component="section" aria-label="Bounds of its figures">
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h2">
          Its figures
        </Typography>
        <Button
          variant="text"
          onClick={() => onChange([...bounds, { figure: "mass", least: "", most: "" }])}
        >
          Bound one
        </Button>
      </Stack>
      {bounds.map((bound, index) => (
        <Stack key={index} direction="row" spacing={0.5} sx={{ alignItems: "center" }}>
          <Choice
            label="Figure"
            value={bound.figure}
            options={BOUNDED.map(([figure, title, own]) => {
              const its = own === "length" ? unit : own;
              return [figure, its ? `${title}, ${its}` : title] as const;
            })}
            onChange={(figure) => change(index, { figure })}
          />
          {(["least", "most"] as const).map((end) => (
            <TextField
              key={end}
              label={end}
              value={bound[end]}
              error={problems.some((one) => one.place.startsWith(`/limits/${index}`))}
              onChange={(event) => change(index, { [end]: event.target.value })}
              sx={{ width: 92, flex: "none" }}
              slotProps={{ htmlInput: { style: { textAlign: "right" } } }}
            />
          ))}
          <button
            type="button"
            className="plain-action"
            aria-label={`Remove bound ${index + 1}`}
            title="Remove"
            onClick={() => onChange(bounds.filter((_, k) => k !== index))}
          >
            ✕
          </button>
        </Stack>
      ))}
    </Stack>
  );
}

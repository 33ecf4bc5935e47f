import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import InputAdornment from "@mui/material/InputAdornment";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Input } from "../api/client";
import { Choice } from "../bench/Choice";
import { digits, threeDigits } from "../look/numbers";

export interface Range {
  input: string;
  low: number;
  high: number;
  count: number;
}

const FIRST = ["/path/pitch", "/path/turns", "/thread/allowance", "/path/diameter"];

/** The input that most people would go over first, around what it is now. */
export function usualRange(inputs: Input[]): Range[] {
  const first = FIRST.map((place) => inputs.find((one) => one.place === place)).find(Boolean);
  const input = first ?? inputs[0];
  return input ? [rangeAround(input, 21)] : [];
}

function rangeAround(input: Input, count: number): Range {
  const reach = input.value === 0 ? 1 : Math.abs(input.value) / 3;
  const [low, high] = [input.value - reach, input.value + reach].map((value) =>
    input.whole ? Math.round(value) : threeDigits(value),
  );
  return { input: input.place, low: low!, high: high!, count };
}

/** Which inputs are tried, from where to where, in how many steps. */
export function RangeFields(props: {
  inputs: Input[];
  ranges: Range[];
  onChange: (ranges: Range[]) => void;
}) {
  const { inputs, ranges, onChange } = props;
  const put = (at: number, range: Range) =>
    onChange(ranges.map((old, index) => (index === at ? range : old)));
  return (
    <Stack spacing={1.5}>
      {ranges.map((range, index) => (
        <OneRange
          key={index}
          name={index === 0 ? "First input" : "Second input"}
          inputs={inputs.filter(
            (one) =>
              one.place === range.input || ranges.every((other) => other.input !== one.place),
          )}
          range={range}
          onChange={(next) => put(index, next)}
        />
      ))}
      {ranges.length === 1 && inputs.length > 1 && (
        <Button
          variant="outlined"
          onClick={() => {
            const other = inputs.find((one) => one.place !== ranges[0]!.input)!;
            const usual = inputs.find(
              (one) => one.place === "/path/turns" && one.place !== ranges[0]!.input,
            );
            onChange([ranges[0]!, rangeAround(usual ?? other, 15)]);
          }}
        >
          Add a second input
        </Button>
      )}
      {ranges.length === 2 && (
        <Button variant="text" onClick={() => onChange([ranges[0]!])}>
          Leave the second input out
        </Button>
      )}
    </Stack>
  );
}

function OneRange(props: {
  name: string;
  inputs: Input[];
  range: Range;
  onChange: (range: Range) => void;
}) {
  const { name, inputs, range, onChange } = props;
  const input = inputs.find((one) => one.place === range.input);
  const number = (key: "low" | "high" | "count", label: string) => (
    <TextField
      key={`${range.input} ${key}`}
      label={label}
      defaultValue={String(range[key])}
      onChange={(event) => {
        const value = Number(event.target.value.replace(",", "."));
        if (event.target.value.trim() !== "" && Number.isFinite(value)) {
          onChange({ ...range, [key]: key === "count" ? Math.round(value) : value });
        }
      }}
      slotProps={{
        htmlInput: { "aria-label": `${name}, ${label}`, style: { textAlign: "right" } },
        input:
          key === "count" || !input?.unit
            ? {}
            : { endAdornment: <InputAdornment position="end">{input.unit}</InputAdornment> },
      }}
    />
  );
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Stack spacing={1}>
        <Choice
          label={name}
          value={range.input}
          options={inputs.map((one) => [one.place, one.words] as const)}
          onChange={(place) =>
            onChange(
              rangeAround(
                inputs.find((one) => one.place === place)!,
                range.count,
              ),
            )
          }
        />
        <Stack direction="row" spacing={1}>
          {number("low", "From")}
          {number("high", "To")}
          {number("count", "Steps")}
        </Stack>
        {input && (
          <Typography variant="caption" color="text.secondary">
            It is {digits(input.value, 6)} {input.unit} now.
          </Typography>
        )}
      </Stack>
    </Box>
  );
}

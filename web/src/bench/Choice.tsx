import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

/** One of a few words. */
export function Choice<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <TextField
      select
      fullWidth
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {options.map(([key, text]) => (
        <MenuItem key={key} value={key}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}

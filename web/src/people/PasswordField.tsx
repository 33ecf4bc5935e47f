import TextField from "@mui/material/TextField";

interface Props {
  label: string;
  autoComplete: "current-password" | "new-password";
  value: string;
  onChange: (value: string) => void;
}

/** A password being typed. */
export function PasswordField({ label, autoComplete, value, onChange }: Props) {
  return (
    <TextField
      label={label}
      type="password"
      autoComplete={autoComplete}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Refusal } from "../../api/client";
import type { LengthUnit } from "../../look/numbers";

const UNITS: readonly string[] = ["mm", "cm", "m", "in"] satisfies LengthUnit[];

interface Props<T> {
  label: string;
  accept: string;
  /** Reads a file; `unit` is that of one which does not say its own. */
  read: (file: File, unit: string) => Promise<T>;
  onRead: (found: T) => void;
  /** Among what is asked where a file does not say its own. */
  units?: readonly string[];
}

/** Takes a file; asks for its unit where it has none, and says why it cannot be read. */
export function FileButton<T>({ label, accept, read, onRead, units = UNITS }: Props<T>) {
  const chooser = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const reading = useMutation({
    mutationFn: ({ chosen, its }: { chosen: File; its: string }) => read(chosen, its),
    onSuccess: onRead,
  });
  const { error } = reading;
  const asksUnit = error instanceof Refusal && error.problems[0]?.place === "/unit";
  return (
    <Stack spacing={0.75}>
      <Button
        variant="outlined"
        disabled={reading.isPending}
        onClick={() => chooser.current?.click()}
      >
        {reading.isPending ? "Reading…" : label}
      </Button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(event) => {
          const chosen = event.target.files?.[0] ?? null;
          setFile(chosen);
          if (chosen) reading.mutate({ chosen, its: "" });
          event.target.value = "";
        }}
      />
      {error && (
        <Typography variant="body2" role="alert">
          {file?.name}: {error.message}.
        </Typography>
      )}
      {asksUnit && file && (
        <Stack direction="row" spacing={1}>
          {units.map((its) => (
            <Button
              key={its}
              variant="outlined"
              onClick={() => reading.mutate({ chosen: file, its })}
            >
              {its}
            </Button>
          ))}
        </Stack>
      )}
    </Stack>
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import type { ReactNode } from "react";

interface Props {
  onTake: () => void;
  /** What a reader hears of the button that takes it out. */
  out: string;
  title: string;
  onOut: () => void;
  children: ReactNode;
}

/** Something that the library keeps: taken by a press, taken out by the other. */
export function KeptRow({ onTake, out, title, onOut, children }: Props) {
  return (
    <Stack direction="row" sx={{ alignItems: "center" }}>
      <Button
        variant="text"
        onClick={onTake}
        sx={{ flex: 1, justifyContent: "flex-start", textAlign: "left" }}
      >
        {children}
      </Button>
      <button type="button" className="plain-action" onClick={onOut} aria-label={out} title={title}>
        ✕
      </button>
    </Stack>
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Held } from "../api/client";
import { digits, lengthText, type LengthUnit } from "../look/numbers";

/** How far a part and a body from a file are apart. */
export function HeldWords(props: {
  held: Held;
  name: string;
  unit: LengthUnit;
  onLeave: () => void;
  children: ReactNode;
}) {
  const { held, name, unit, onLeave, children } = props;
  const { body, part_beyond: part, body_beyond: over } = held;
  const place = (at: readonly number[]) => at.map((c) => digits(c, 4)).join(", ");
  return (
    <Stack spacing={1.25}>
      <Typography variant="h2">{name}, where its file has it</Typography>
      <Typography variant="body2">
        <strong>{held.same ? "They are the same" : "They differ"}</strong>, within{" "}
        {lengthText(held.within, unit)}.
      </Typography>
      <Typography variant="body2">
        The part reaches beyond the body by {lengthText(part.distance, unit)} at the most, at{" "}
        {place(part.at)} mm.
      </Typography>
      <Typography variant="body2">
        The body reaches beyond the part by {lengthText(over.distance, unit)} at the most, at{" "}
        {place(over.at)} mm.
      </Typography>
      {!body && (
        <Typography variant="caption">
          The body has too many pieces to be drawn here; its whole file was measured.
        </Typography>
      )}
      {(body?.error ?? 0) > 0 && (
        <Typography variant="caption">
          The body is drawn to {lengthText(body!.error!, unit)}, made light; its whole file was
          measured.
        </Typography>
      )}
      {!held.closed && (
        <Typography variant="body2" role="status">
          The body is open somewhere: it has a surface and a box, and no volume or mass.
        </Typography>
      )}
      {children}
      <Button variant="text" onClick={onLeave}>
        Leave the body
      </Button>
    </Stack>
  );
}

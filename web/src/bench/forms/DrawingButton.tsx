import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { readDrawing, type Drawing } from "../../api/client";
import { MM } from "../../look/numbers";
import { useLook } from "../../look/Look";
import { capital } from "../../look/words";
import { useUnit } from "../PartContext";
import { FileButton } from "./FileButton";

interface Props {
  label: string;
  /** Whether it is read as the half section of a turned body. */
  turned?: boolean;
  /** Called with the drawing in the recipe's unit, of several loops the closed ones. */
  onRead: (drawing: Drawing) => void;
}

/** Reads a drawing, and shows what is open, crossing or tiny in it. */
export function DrawingButton({ label, turned, onRead }: Props) {
  const unit = useUnit();
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  return (
    <Stack spacing={0.75}>
      <FileButton
        label={label}
        accept=".dxf,.svg"
        read={(file, its) => {
          setDrawing(null);
          return readDrawing(file, its);
        }}
        onRead={(found) => {
          setDrawing(found);
          const closed = found.loops.filter((loop) => loop.closed !== false);
          const taken = closed.length ? closed : found.loops.slice(0, 1);
          const size = 1 / MM[unit];
          onRead({
            ...found,
            loops: taken.map((loop) => ({
              ...loop,
              points: loop.points.map((step) => scaled(step, size)),
            })),
            ...(found.profile && { profile: found.profile.map((step) => scaled(step, size)) }),
          });
        }}
      />
      {turned && drawing?.profile_fault && (
        <Typography variant="body2" role="alert">
          {capital(drawing.profile_fault)}
        </Typography>
      )}
      {drawing && drawing.faults.length > 0 && <Faults drawing={drawing} />}
    </Stack>
  );
}

/** What is not right in a drawing, in words and marked on it. */
function Faults({ drawing }: { drawing: Drawing }) {
  const { colours } = useLook();
  const ends = drawing.loops.map((loop) => loop.points.map((p) => p.slice(-2) as number[]));
  const marks = drawing.faults.flatMap((fault) => fault.points);
  const all = [...ends.flat(), ...marks];
  const xs = all.map((p) => p[0] ?? 0);
  const ys = all.map((p) => p[1] ?? 0);
  const [left, low] = [Math.min(...xs), Math.min(...ys)];
  const span = Math.max(Math.max(...xs) - left, Math.max(...ys) - low, 1e-9);
  const to = (p: number[]) =>
    `${8 + ((p[0]! - left) / span) * 144} ${112 - ((p[1]! - low) / span) * 104}`;
  return (
    <Stack direction="row" spacing={1} role="status">
      <svg
        width="160"
        height="120"
        role="img"
        aria-label="The drawing, with what is not right in it"
      >
        {ends.map((points, i) => (
          <path
            key={i}
            d={points.map((p, k) => `${k ? "L" : "M"}${to(p)}`).join("")}
            fill="none"
            stroke={colours.copper}
          />
        ))}
        {marks.map((p, i) => {
          const [x, y] = to(p).split(" ");
          return (
            <circle key={i} cx={x} cy={y} r="4" fill="none" stroke={colours.stop} strokeWidth="2" />
          );
        })}
      </svg>
      <Stack component="ul" sx={{ m: 0, pl: 2 }}>
        {drawing.faults.slice(0, 5).map((fault, i) => (
          <Typography key={i} variant="body2" component="li">
            {fault.text}
          </Typography>
        ))}
      </Stack>
    </Stack>
  );
}

/** A step of a loop, all of its numbers but a bulge. */
function scaled(step: number[], factor: number): number[] {
  return step.map((value, k) =>
    step.length === 3 && k === 2 ? value : Number((value * factor).toPrecision(12)),
  );
}

import Box from "@mui/material/Box";
import { useRef } from "react";
import { bounded, LANE, MOST } from "./laneHeight";

interface Props {
  /** Of a lane, and how many of them grow with it. */
  height: number;
  lanes: number;
  onChange: (height: number) => void;
}

/** The upper edge of the wire strip: dragged, or moved by the arrow keys, it makes the lanes higher. */
export function HeightHandle({ height, lanes, onChange }: Props) {
  const grip = useRef<{ y: number; height: number } | null>(null);
  return (
    <Box
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the wire strip"
      aria-valuemin={LANE}
      aria-valuemax={MOST}
      aria-valuenow={height}
      tabIndex={0}
      sx={{
        position: "absolute",
        left: 0,
        right: 0,
        top: -8,
        height: 10,
        cursor: "ns-resize",
        touchAction: "none",
        "&:hover, &:focus-visible": { bgcolor: "action.hover" },
      }}
      onPointerDown={(event) => {
        grip.current = { y: event.clientY, height };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!grip.current) return;
        onChange(bounded(grip.current.height + (grip.current.y - event.clientY) / lanes));
      }}
      onPointerUp={() => {
        grip.current = null;
      }}
      onDoubleClick={() => onChange(LANE)}
      onKeyDown={(event) => {
        const to = { ArrowUp: height + 8, ArrowDown: height - 8, Home: LANE, End: MOST }[event.key];
        if (to === undefined) return;
        onChange(bounded(to));
        event.preventDefault();
      }}
    />
  );
}

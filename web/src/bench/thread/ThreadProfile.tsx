import Box from "@mui/material/Box";
import { useRef } from "react";
import { useThreadTold, useUnit } from "../PartContext";
import useResizeObserver from "../useResizeObserver";
import { ProfileDrawing } from "./ProfileDrawing";

/** The profile of the thread on the bench, below the part. */
export function ThreadProfile() {
  const part = useThreadTold();
  const unit = useUnit();
  const frame = useRef<HTMLDivElement>(null);
  const width = useResizeObserver(frame);
  const view = part.report?.thread;
  return (
    <Box ref={frame} component="section" aria-label="Profile" sx={{ height: 196 }}>
      {view && (
        <ProfileDrawing
          profiles={view}
          built={view.built}
          mate={view.mate}
          side={view.side}
          standard={view.standard}
          unit={unit}
          width={width}
          height={192}
        />
      )}
    </Box>
  );
}

import Box from "@mui/material/Box";
import { useRef } from "react";
import { useThreadContext } from "../PartContext";
import useResizeObserver from "../useResizeObserver";
import { ProfileDrawing } from "./ProfileDrawing";

/** The profile of the thread on the bench, below the part. */
export function ThreadProfile() {
  const { part, unit } = useThreadContext();
  const frame = useRef<HTMLDivElement>(null);
  const width = useResizeObserver(frame);
  const view = part.report?.thread;
  return (
    <Box ref={frame} component="section" aria-label="Profile" sx={{ height: 196 }}>
      {view && (
        <ProfileDrawing
          profiles={view}
          built={onMember(view)}
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

type View = NonNullable<ReturnType<typeof useThreadContext>["part"]["report"]>["thread"];

/** The built profile beside the others; a ridge or a groove is measured from its host, and moved here. */
function onMember(view: View): number[][] {
  const own = view[view.side].basic;
  const crest = (line: number[][]) => Math.max(...line.map(([, r]) => r!));
  if (!own || Math.abs(crest(view.built) - crest(own)) < 0.25 * crest(own)) return view.built;
  const shift = crest(own) - crest(view.built);
  return view.built.map(([z, r]) => [z!, r! + shift]);
}

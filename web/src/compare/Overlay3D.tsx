import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { useState } from "react";
import type { Sphere } from "three";
import { Camera, VIEWS, type View } from "../bench/Camera";
import type { Piece } from "../bench/geometry";
import { Space } from "../bench/Space";
import { useLook } from "../look/Look";
import { OneSide } from "./OneSide";
import { AFTER, BEFORE, type Shown } from "./sources";

interface Props {
  old: Piece[];
  now: Piece[];
  sphere: Sphere | null;
  shown: Shown;
}

/** Two parts in one space, seen by one camera. */
export function Overlay3D({ old, now, sphere, shown }: Props) {
  const { colours } = useLook();
  const [wanted, setWanted] = useState<{ view: View; count: number }>({ view: "Fit", count: 0 });
  return (
    <Box sx={{ position: "absolute", inset: 0 }} role="region" aria-label="Both parts in 3D">
      <Space>
        <Camera parallel={false} sphere={sphere} wanted={wanted} />
        <hemisphereLight args={["#ffffff", "#8a7d6c", 1.5]} />
        <directionalLight position={[-40, -90, 120]} intensity={2.2} />
        {shown !== "after" && <OneSide pieces={old} colour={BEFORE} faint={shown === "both"} />}
        {shown !== "before" && <OneSide pieces={now} colour={AFTER} faint={false} />}
      </Space>
      <Stack direction="row" spacing={0.5} sx={{ position: "absolute", top: 8, left: 10 }}>
        {(Object.keys(VIEWS) as View[]).map((view) => (
          <Button
            key={view}
            variant="text"
            onClick={() => setWanted((last) => ({ view, count: last.count + 1 }))}
            sx={{ minWidth: 0, bgcolor: colours.sheet }}
          >
            {view}
          </Button>
        ))}
      </Stack>
    </Box>
  );
}

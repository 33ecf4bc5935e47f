import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { useLook } from "../look/Look";
import { lengthText, type LengthUnit } from "../look/numbers";
import { shownAt, type Scan } from "./scan";

/** Brings places a little nearer, so that those just beneath the surface are seen as well. */
const NEARER = "#include <project_vertex>\n\tgl_Position.z -= 0.002 * gl_Position.w;";

/** The scan's places in space, painted by how far they are off. */
export function ScanPlaces({ scan }: { scan: Scan }) {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => invalidate(), [scan, invalidate]);
  return (
    <points raycast={() => undefined}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[scan.places, 3]} />
        <bufferAttribute attach="attributes-color" args={[scan.colours, 3]} />
      </bufferGeometry>
      <pointsMaterial
        vertexColors
        size={3.5}
        sizeAttenuation={false}
        onBeforeCompile={(shader) => {
          shader.vertexShader = shader.vertexShader.replace("#include <project_vertex>", NEARER);
        }}
      />
    </points>
  );
}

/** What the scan's colours say, and how far it is off. */
export function ScanWords(props: { scan: Scan; unit: LengthUnit; onLeave: () => void }) {
  const { scan, unit, onLeave } = props;
  const { colours } = useLook();
  const { mean, p95, max } = scan.deviation;
  const most = lengthText(scan.most, unit);
  const stops = [-1, 0, 1].map((share) => `rgb(${shownAt(share).join(" ")})`);
  return (
    <Stack
      component="section"
      aria-label="The scan that it was traced from"
      direction="row"
      useFlexGap
      sx={{
        position: "absolute",
        bottom: 6,
        left: 10,
        right: 10,
        px: 1,
        gap: 1,
        alignItems: "center",
        bgcolor: colours.sheet,
      }}
    >
      <Typography variant="caption" sx={{ whiteSpace: "nowrap" }}>
        inside −{most}
      </Typography>
      <Box
        sx={{ width: 64, height: 8, background: `linear-gradient(to right, ${stops.join(", ")})` }}
      />
      <Typography variant="caption" sx={{ whiteSpace: "nowrap" }}>
        +{most} outside
      </Typography>
      <Typography variant="caption" sx={{ flex: 1, lineHeight: 1.2 }}>
        as traced {lengthText(mean, unit)} off on average, {lengthText(p95, unit)} at 95 %,{" "}
        {lengthText(max, unit)} at the most
      </Typography>
      <Button variant="text" onClick={onLeave} sx={{ flex: "none" }}>
        Leave the scan
      </Button>
    </Stack>
  );
}

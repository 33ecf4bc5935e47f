import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { useLook } from "../look/Look";
import { lengthText, type LengthUnit } from "../look/numbers";
import { colourAt, type Scan } from "./scan";

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
      <pointsMaterial vertexColors size={3.5} sizeAttenuation={false} />
    </points>
  );
}

/** What the scan's colours say, and how far it is off. */
export function ScanWords(props: { scan: Scan; unit: LengthUnit; onLeave: () => void }) {
  const { scan, unit, onLeave } = props;
  const { colours } = useLook();
  const { mean, most_of_it, largest } = scan.deviation;
  const stops = [-1, 0, 1].map((share) => {
    const [r, g, b] = colourAt(share).map((part) => Math.round(255 * part));
    return `rgb(${r} ${g} ${b})`;
  });
  return (
    <Box
      component="section"
      aria-label="The scan that it was traced from"
      sx={{
        position: "absolute",
        bottom: 10,
        left: 10,
        width: 270,
        p: 1,
        bgcolor: colours.sheet,
        border: 1,
        borderColor: "divider",
      }}
    >
      <Box sx={{ height: 8, background: `linear-gradient(to right, ${stops.join(", ")})` }} />
      <Typography
        variant="caption"
        sx={{ display: "flex", justifyContent: "space-between", whiteSpace: "nowrap" }}
      >
        <span>−{lengthText(scan.most, unit)}, inside</span>
        <span>+{lengthText(scan.most, unit)}, outside</span>
      </Typography>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        The scan, off the part as it was traced by {lengthText(mean, unit)} on average,{" "}
        {lengthText(most_of_it, unit)} at 95 % of it, {lengthText(largest, unit)} at the most.
      </Typography>
      <Button variant="text" onClick={onLeave} sx={{ p: 0, minHeight: 0, mt: 0.5 }}>
        Leave the scan
      </Button>
    </Box>
  );
}

import { Line } from "@react-three/drei";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import type { Vector3 } from "three";
import { useLook } from "../look/Look";
import { lengthText, type LengthUnit } from "../look/numbers";

/** The places that were pointed at, in space, and the line between them. */
export function MeasuredLine({ ends, radius }: { ends: Vector3[]; radius: number }) {
  const { colours } = useLook();
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => invalidate(), [ends, invalidate]);
  return (
    <>
      {ends.map((end, index) => (
        <mesh key={index} position={end} renderOrder={2}>
          <sphereGeometry args={[radius * 0.012, 16, 12]} />
          <meshBasicMaterial color={colours.ink} depthTest={false} />
        </mesh>
      ))}
      {ends.length === 2 && (
        <Line points={[ends[0]!, ends[1]!]} color={colours.ink} lineWidth={2} depthTest={false} />
      )}
    </>
  );
}

/** How far the two places are apart, in all and along each axis. */
export function MeasuredWords(props: { ends: Vector3[]; unit: LengthUnit; onAgain: () => void }) {
  const { ends, unit, onAgain } = props;
  const { colours } = useLook();
  const [from, to] = ends;
  return (
    <Box
      role="status"
      sx={{ position: "absolute", top: 44, left: 10, bgcolor: colours.sheet, px: 1.5, py: 0.5 }}
    >
      {!from && "Press on two places of the part; they snap to its nearest corner of the mesh."}
      {from && !to && "Press on the second place."}
      {from && to && (
        <>
          <strong>{lengthText(from.distanceTo(to), unit)}</strong>; along x{" "}
          {lengthText(Math.abs(to.x - from.x), unit)}, y {lengthText(Math.abs(to.y - from.y), unit)}
          , z {lengthText(Math.abs(to.z - from.z), unit)}
          <Button variant="text" onClick={onAgain}>
            Again
          </Button>
        </>
      )}
    </Box>
  );
}

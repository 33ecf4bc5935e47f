import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { type Sphere } from "three";
import { type Report } from "../api/client";
import { useLook } from "../look/Look";
import { useDesk } from "../state/bench";

export function Cursor({ report, sphere }: { report: Report | null; sphere: Sphere | null }) {
  const cursor = useDesk((state) => state.cursor);
  const { colours } = useLook();
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => invalidate(), [cursor, invalidate]);
  const worst = report?.checks.find((check) => check.verdict === "stop" && check.points.length);
  const marks: [number[], string, number][] = [];
  if (report && cursor !== null) {
    const { s, x, y, z } = report.strip;
    const last = s.length - 1;
    const place = Math.min(1, Math.max(0, cursor / (s[last] || 1))) * last;
    const i = Math.min(Math.floor(place), last - 1);
    const t = place - i;
    const mix = (lane: number[]) => lane[i]! * (1 - t) + lane[i + 1]! * t;
    marks.push([[mix(x), mix(y), mix(z)], colours.ink, 0.03]);
  }
  for (const point of worst?.points ?? []) marks.push([point, colours.stop, 0.035]);
  if (!sphere) return null;
  return marks.map(([point, colour, size], index) => (
    <mesh
      key={index}
      position={[point[0]!, point[1]!, point[2]!]}
      renderOrder={2}
      raycast={() => undefined}
    >
      <sphereGeometry args={[sphere.radius * size, 20, 14]} />
      <meshBasicMaterial color={colour} depthTest={false} transparent opacity={0.85} />
    </mesh>
  ));
}

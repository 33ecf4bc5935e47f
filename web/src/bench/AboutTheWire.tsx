import { type Sphere } from "three";
import { useDesk } from "../state/bench";
import { Guides, PathPoints, ReferenceBodies, Ribs } from "./Guides";
import { useWoundTold } from "./PartContext";
import { FitBodies } from "./FitBodies";
import { Cursor } from "./Cursor";

/** What stands beside a wound part: what it fits, what it goes by, its points and the cursor. */
export function AboutTheWire({ sphere }: { sphere: Sphere | null }) {
  const part = useWoundTold();
  const step = useDesk((state) => state.step);
  return (
    <>
      <FitBodies sphere={sphere} />
      <Guides report={part.report} />
      <ReferenceBodies report={part.report} />
      {step === "stance" && <Ribs report={part.report} />}
      {step === "path" && <PathPoints sphere={sphere} />}
      <Cursor report={part.report} sphere={sphere} />
    </>
  );
}

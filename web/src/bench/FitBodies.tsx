import { DoubleSide, type Sphere } from "three";
import { useLook } from "../look/Look";
import { MM } from "../look/numbers";
import { useUnit, useWoundTold } from "./PartContext";

/** The bore and the rod that the part is to fit, as faint bodies. */
export function FitBodies({ sphere }: { sphere: Sphere | null }) {
  const part = useWoundTold();
  const { colours } = useLook();
  const values = part.report?.values ?? {};
  const unit = useUnit();
  const scale = MM[unit];
  if (!sphere) return null;
  const strip = part.report?.strip;
  const low = Math.min(...(strip?.z ?? [0]));
  const high = Math.max(...(strip?.z ?? [0]));
  const body = (place: string, opacity: number, spare: number) => {
    const diameter = values[place];
    if (!diameter) return null;
    return (
      <mesh
        key={place}
        position={[0, 0, (low + high) / 2]}
        rotation={[Math.PI / 2, 0, 0]}
        raycast={() => undefined}
      >
        <cylinderGeometry
          args={[(diameter * scale) / 2, (diameter * scale) / 2, high - low + spare, 64, 1, true]}
        />
        <meshBasicMaterial
          color={colours.pencil}
          transparent
          opacity={opacity}
          depthWrite={false}
          side={DoubleSide}
        />
      </mesh>
    );
  };
  return (
    <>
      {body("/fit/bore", 0.1, sphere.radius * 0.15)}
      {body("/fit/rod", 0.22, sphere.radius * 0.4)}
    </>
  );
}

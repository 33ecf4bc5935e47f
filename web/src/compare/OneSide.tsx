import { Color, DoubleSide } from "three";
import type { Piece } from "../bench/geometry";

/** The pieces of a part in one colour; what is faint is seen through. */
export function OneSide(props: { pieces: Piece[]; colour: string; faint: boolean }) {
  const { pieces, colour, faint } = props;
  return pieces.map((piece, index) => (
    <mesh key={index} geometry={piece.geometry} dispose={null} raycast={() => undefined}>
      <meshStandardMaterial
        key={String(faint)}
        color={new Color(colour)}
        roughness={0.45}
        metalness={0.2}
        side={DoubleSide}
        transparent={faint}
        opacity={faint ? 0.5 : 1}
      />
    </mesh>
  ));
}

import type { ComponentProps } from "react";
import { useRecipe } from "../../state/bench";
import { at, put } from "../../state/pointer";
import { useUnit } from "../PartContext";
import { DrawingButton } from "./DrawingButton";
import { Rows } from "./Rows";

interface Props {
  /** JSON pointer of what has the outline. */
  place: string;
  next: ComponentProps<typeof Rows>["next"];
}

/** The outline of a turned body, as points of radius and height: typed, or read from a drawn half section. */
export function OutlineRows({ place, next }: Props) {
  const unit = useUnit();
  const change = useRecipe((state) => state.change);
  return (
    <>
      <DrawingButton
        label="Read the outline from a DXF or SVG"
        turned
        onRead={({ profile }) =>
          profile &&
          change((old) =>
            put(old, place, {
              ...(at(old, place) as object),
              profile,
              ease: "straight",
            }),
          )
        }
      />
      <Rows
        title="Outline"
        place={`${place}/profile`}
        columns={[
          { label: "radius", unit },
          { label: "height", unit },
          { label: "bulge", unit: "", step: 0.05 },
        ]}
        least={2}
        next={next}
      />
    </>
  );
}

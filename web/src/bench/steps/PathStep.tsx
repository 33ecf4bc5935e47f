import type { Recipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { kindAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { PathFields } from "../forms/PathFields";
import { useUnit, useWoundTold } from "../PartContext";

/** The curve that the wire follows. */
export function PathStep() {
  const part = useWoundTold();
  const unit = useUnit();
  const change = useRecipe((state) => state.change);
  const size = (part.report?.figures.outside_diameter ?? 20) / MM[unit];
  return (
    <PathFields
      place="/path"
      label="Kind"
      size={size}
      onNew={(fresh) => change<Recipe>((old) => withPath(old, fresh as Recipe["path"]))}
    />
  );
}

/** The recipe on another path, in the stance that is usual there. */
function withPath(old: Recipe, path: Recipe["path"]): Recipe {
  const kind = kindAt(old, "/path", path.kind)["x-stance"]!;
  const next: Recipe = {
    ...old,
    path,
    stance: { kind },
    section: { ...old.section, plane: "across" },
  };
  if (kind === "steady" && next.strands && next.strands.lay == null) delete next.strands;
  return next;
}

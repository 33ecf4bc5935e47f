import type { Recipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { newPath, type PathKind } from "../forms/kinds";
import { PathFields } from "../forms/PathFields";
import { usePartContext } from "../PartContext";

const AROUND_AN_AXIS = new Set<PathKind>(["coil", "winding", "wrap"]);

/** The curve that the wire follows. */
export function PathStep() {
  const { unit, part } = usePartContext();
  const change = useRecipe((state) => state.change);
  const size = (part.report?.figures.outside_diameter ?? 20) / MM[unit];
  return (
    <PathFields
      place="/path"
      label="Kind"
      size={size}
      onKind={(kind) => change<Recipe>((old) => withPath(old, kind, size))}
    />
  );
}

/** The recipe on a path of another kind, in a stance that the path has. */
function withPath(old: Recipe, kind: PathKind, size: number): Recipe {
  const path =
    kind === "straight" ? { kind, length: Number((size * 4).toPrecision(3)) } : newPath(kind, size);
  const stance: Recipe["stance"] = {
    kind: kind === "wrap" ? "seated" : AROUND_AN_AXIS.has(kind) ? "outward" : "steady",
  };
  const next: Recipe = { ...old, path, stance, section: { ...old.section, plane: "across" } };
  if (!AROUND_AN_AXIS.has(kind) && next.strands && next.strands.lay == null) delete next.strands;
  return next;
}

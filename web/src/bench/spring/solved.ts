/** Which springs have their turns solved exactly. */

import { isThreaded, type AnyRecipe } from "../../api/client";

export function isSolvedExactly(recipe: AnyRecipe): boolean {
  if (isThreaded(recipe) || recipe.wires?.length) return false;
  return ["compression", "extension", "torsion"].includes(recipe.spring?.kind ?? "");
}

import { newDesign, type Design } from "../api/client";

/** Puts the recipe in a file on the shelf. */
export async function designFromFile(file: File): Promise<Design> {
  let recipe: unknown;
  try {
    recipe = JSON.parse(await file.text());
  } catch (error) {
    throw new Error("this is no recipe, since it is not JSON; give a .spira.json file", {
      cause: error,
    });
  }
  if (recipe === null || typeof recipe !== "object" || Array.isArray(recipe)) {
    throw new Error("this is no recipe, since it is no JSON object; give a .spira.json file");
  }
  return newDesign(recipe);
}

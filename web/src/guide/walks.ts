/** The walks of the guide; the same file is what the tests play and what `docs/guide` is made of. */

import data from "./walks.json";

export interface Walk {
  key: string;
  title: string;
  about: string;
  /** The starting point whose drawing says what is measured where. */
  drawn: string;
  steps: { say?: string; press?: string; type?: string; choose?: string; open?: string }[];
}

export const WALKS: Walk[] = data;

/** How many presses and typings a walk takes. */
export function actions({ steps }: Walk): number {
  return steps.filter((step) => !("see" in step || "figure" in step || "verdict" in step)).length;
}

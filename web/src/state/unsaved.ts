/** Edits that the server has not acknowledged, kept in this browser until it has. */

import type { AnyRecipe } from "../api/client";

export interface Unsaved {
  recipe: AnyRecipe;
  /** The revision that they stand on; 0 for a design that is not on the shelf yet. */
  based: number;
}

const PREFIX = "metaspira-unsaved:";

/** Keep the edits of a design, by the path of its page. */
export function keepUnsaved(page: string, unsaved: Unsaved): void {
  try {
    localStorage.setItem(PREFIX + page, JSON.stringify(unsaved));
  } catch {
    // The browser's room is used up: the warning on leaving remains.
  }
}

export function dropUnsaved(page: string): void {
  localStorage.removeItem(PREFIX + page);
}

/** The edits of a design that were kept, where there are any. */
export function unsavedOf(page: string): Unsaved | null {
  const kept = localStorage.getItem(PREFIX + page);
  try {
    return kept === null ? null : (JSON.parse(kept) as Unsaved);
  } catch {
    return null;
  }
}

/** Leaves nothing of anybody's designs in this browser. */
export function dropAllUnsaved(): void {
  Object.keys(localStorage)
    .filter((key) => key.startsWith(PREFIX))
    .forEach((key) => localStorage.removeItem(key));
}

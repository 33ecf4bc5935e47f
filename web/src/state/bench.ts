/** What the bench works on: the recipe (with undo and redo) and what is not undone beside it. */

import { temporal } from "zundo";
import { create } from "zustand";
import type { AnyRecipe } from "../api/client";
import { differAt, put } from "./pointer";

interface RecipeState {
  recipe: AnyRecipe | null;
  load: (recipe: AnyRecipe) => void;
  /** Put a value at a JSON pointer of the recipe; undefined removes what is there. */
  set: (pointer: string, value: unknown) => void;
  /** Change the whole recipe; the caller knows which kind is on the bench. */
  change: <T extends AnyRecipe>(change: (recipe: T) => T) => void;
}

const BURST_MS = 700;

/** Edits of one place that follow each other within a burst are undone together. */
export const useRecipe = create<RecipeState>()(
  temporal(
    (set) => ({
      recipe: null,
      load: (recipe) => set({ recipe }),
      set: (pointer, value) =>
        set(({ recipe }) => ({ recipe: recipe && put(recipe, pointer, value) })),
      change: (change) => set(({ recipe }) => ({ recipe: recipe && change(recipe as never) })),
    }),
    {
      limit: 200,
      partialize: ({ recipe }) => ({ recipe }),
      equality: (a, b) => a.recipe === b.recipe,
      handleSet: (handle) => {
        let last = 0;
        let where: string | null = null;
        return (past, replace, current) => {
          const before = (past as RecipeState).recipe;
          const place = before && current.recipe && differAt(before, current.recipe);
          const now = Date.now();
          const { pastStates, futureStates } = useRecipe.temporal.getState();
          const atItsEnd = pastStates.length > 0 && futureStates.length === 0;
          const goesOn = atItsEnd && place === where && now - last < BURST_MS;
          if (!goesOn) (handle as (...all: unknown[]) => void)(past, replace, current);
          [last, where] = [now, place];
        };
      },
    },
  ),
);

interface DeskState {
  /** Place of the shared cursor, mm of true length. */
  cursor: number | null;
  setCursor: (cursor: number | null) => void;
  step: string | null;
  openStep: (step: string | null) => void;
  /** The chord error, mm, of the mesh that is shown as it would be exported; null for the preview. */
  chordError: number | null;
  showChordError: (chordError: number | null) => void;
  /** The chord error, mm, of the mesh that is shown to an eye that stands near; null where the preview is as good. */
  sharp: number | null;
  sharpen: (sharp: number | null) => void;
  /** The length, mm, or the angle, degrees, that the spring is shown at; null for free. */
  pressed: number | null;
  /** The place that it is drawn at: the same, or further from free where its movement is enlarged. */
  drawn: number | null;
  press: (pressed: number | null, drawn: number | null) => void;
  /** How the solid stands, in words; null before the first build. */
  solid: string | null;
  tellSolid: (solid: string | null) => void;
}

export const useDesk = create<DeskState>()((set) => ({
  cursor: null,
  setCursor: (cursor) => set({ cursor }),
  step: "path",
  openStep: (step) => set({ step }),
  chordError: null,
  showChordError: (chordError) => set({ chordError }),
  sharp: null,
  sharpen: (sharp) => set({ sharp }),
  pressed: null,
  drawn: null,
  press: (pressed, drawn) => set({ pressed, drawn }),
  solid: null,
  tellSolid: (solid) => set({ solid }),
}));

import { createContext, useContext } from "react";
import type { Recipe } from "../api/client";
import type { LengthUnit } from "../look/numbers";
import type { PartState } from "../state/usePart";
import type { Saving } from "../state/useAutosave";

interface PartContextState {
  recipe: Recipe;
  part: PartState;
  saving: Saving;
  designId: string;
  unit: LengthUnit;
}

const PartContext = createContext<PartContextState | null>(null);

export const PartProvider = PartContext.Provider;

export function usePartContext(): PartContextState {
  const state = useContext(PartContext);
  if (!state) throw new Error("usePartContext stands outside of a bench");
  return state;
}

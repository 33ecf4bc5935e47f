import { createContext, useContext } from "react";
import type { AnyRecipe, Recipe, Report, Said, ThreadRecipe, ThreadReport } from "../api/client";
import type { LengthUnit } from "../look/numbers";
import type { PartState } from "../state/usePart";
import type { Saving } from "../state/useAutosave";

export interface BenchState<T extends AnyRecipe = AnyRecipe, R extends Said = Said> {
  recipe: T;
  part: PartState<R, T>;
  saving: Saving;
  unit: LengthUnit;
}

const PartContext = createContext<BenchState | null>(null);

export const PartProvider = PartContext.Provider;

/** What every part of a bench works with, whatever the design is. */
export function useBench(): BenchState {
  const state = useContext(PartContext);
  if (!state) throw new Error("useBench stands outside of a bench");
  return state;
}

/** The same on the bench of a wound part. */
export function usePartContext(): BenchState<Recipe, Report> {
  return useBench() as BenchState<Recipe, Report>;
}

/** The same on the bench of a threaded part. */
export function useThreadContext(): BenchState<ThreadRecipe, ThreadReport> {
  return useBench() as BenchState<ThreadRecipe, ThreadReport>;
}

/** What every piece of a bench works with. What is read of the recipe and what is told of the part are taken apart:
 * an edit draws again what shows the recipe, its answer what shows the answer. */

import { createContext, useContext, type Context, type ReactNode } from "react";
import {
  isThreaded,
  type AnyRecipe,
  type Recipe,
  type Report,
  type Said,
  type ThreadRecipe,
  type ThreadReport,
} from "../api/client";
import type { LengthUnit } from "../look/numbers";
import { useRecipe } from "../state/bench";
import type { PartState } from "../state/usePart";
import type { Saving } from "../state/useAutosave";

export interface BenchState<T extends AnyRecipe = AnyRecipe, R extends Said = Said> {
  recipe: T;
  part: PartState<R, T>;
  unit: LengthUnit;
}

const RecipeContext = createContext<AnyRecipe | null>(null);
const PartContext = createContext<PartState | null>(null);
const SavingContext = createContext<Saving | null>(null);

interface Given {
  recipe: AnyRecipe;
  part: PartState;
  saving: Saving;
  children: ReactNode;
}

/** Gives what is on the bench to all that stands in it. */
export function BenchProvider({ recipe, part, saving, children }: Given) {
  return (
    <RecipeContext value={recipe}>
      <PartContext value={part}>
        <SavingContext value={saving}>{children}</SavingContext>
      </PartContext>
    </RecipeContext>
  );
}

function useGiven<T>(context: Context<T | null>): T {
  const given = useContext(context);
  if (!given) throw new Error("this stands outside of a bench");
  return given;
}

/** What is told of the part that the recipe makes. */
export function useTold(): PartState {
  return useGiven(PartContext);
}

/** The same of a wound part. */
export function useWoundTold(): PartState<Report, Recipe> {
  return useTold() as PartState<Report, Recipe>;
}

/** The same of a threaded part. */
export function useThreadTold(): PartState<ThreadReport, ThreadRecipe> {
  return useTold() as PartState<ThreadReport, ThreadRecipe>;
}

/** How what is on the bench is saved. */
export function useSaving(): Saving {
  return useGiven(SavingContext);
}

/** The unit that the recipe's lengths are in. */
export function useUnit(): LengthUnit {
  return useRecipe((state) => state.recipe?.unit) ?? "mm";
}

/** What the design is called. */
export function useName(): string | undefined {
  return useRecipe((state) => state.recipe?.name) ?? undefined;
}

/** Whether a threaded part is on the bench. */
export function useThreaded(): boolean {
  return useRecipe(({ recipe }) => recipe !== null && isThreaded(recipe));
}

/** The recipe, what is told of its part, and its unit. */
export function useBench(): BenchState {
  const recipe = useGiven(RecipeContext);
  return { recipe, part: useTold(), unit: recipe.unit ?? "mm" };
}

/** The same on the bench of a wound part. */
export function usePartContext(): BenchState<Recipe, Report> {
  return useBench() as BenchState<Recipe, Report>;
}

/** The same on the bench of a threaded part. */
export function useThreadContext(): BenchState<ThreadRecipe, ThreadReport> {
  return useBench() as BenchState<ThreadRecipe, ThreadReport>;
}

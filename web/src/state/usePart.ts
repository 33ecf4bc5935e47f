/** The part that a recipe makes, kept up with every edit; the last good one stays where one fails. */

import { useEffect, useRef, useState } from "react";
import {
  check,
  preview,
  Refusal,
  sentences,
  type AnyRecipe,
  type Problem,
  type Said,
} from "../api/client";
import { Pump } from "./pump";
import { edited } from "./timing";

export interface PartState<R extends Said = Said, T extends AnyRecipe = AnyRecipe> {
  glb: ArrayBuffer | null;
  report: R | null;
  /** The recipe that `report` speaks of. */
  reported: T | null;
  /** A sentence for each step of the work, also where the recipe makes no part. */
  words: Record<string, string>;
  problems: Problem[];
  /** The recipe that was answered last, by a report or by problems. */
  answered: T | null;
  offline: boolean;
}

/** A mesh to be shown; with a chord error, mm, as it would be exported; of a spring, at a length, mm, or an
 * angle, degrees. */
interface Wish {
  recipe: AnyRecipe;
  chordError: number | null;
  at: number | null;
}

const REMEDY_DELAY_MS = 200;
const EMPTY: PartState = {
  glb: null,
  report: null,
  reported: null,
  words: {},
  problems: [],
  answered: null,
  offline: false,
};

export function usePart(
  recipe: AnyRecipe | null,
  chordError: number | null,
  at: number | null,
): PartState {
  const [state, setState] = useState<PartState>(EMPTY);
  const pumps = useRef<{ mesh: Pump<Wish>; check: Pump<AnyRecipe> } | null>(null);

  useEffect(() => {
    const abort = new AbortController();
    let remedies: AbortController | null = null;
    const update = (change: Partial<PartState>) => {
      if (!abort.signal.aborted) setState((old) => ({ ...old, ...change }));
    };
    const fail = (error: unknown) => {
      if (error instanceof Refusal) update({ problems: error.problems, offline: false });
      else if (!abort.signal.aborted) update({ offline: true });
    };
    const say = (wanted: AnyRecipe) =>
      sentences(wanted, abort.signal).then(
        (words) => update({ words }),
        () => undefined,
      );
    const mesh = new Pump<Wish>(async (wanted) => {
      const glb = await preview(wanted.recipe, abort.signal, wanted.chordError, wanted.at);
      update({ glb, offline: false });
    }, fail);
    const checks = new Pump<AnyRecipe>(async (wanted, isLatest) => {
      remedies?.abort();
      try {
        const report = await check(wanted, false, abort.signal);
        const { words } = report;
        update({
          report,
          reported: wanted,
          words,
          problems: [],
          answered: wanted,
          offline: false,
        });
        if (report.verdict === "clear" || !isLatest()) return;
        remedies = new AbortController();
        const { signal } = remedies;
        window.setTimeout(() => {
          if (signal.aborted || !isLatest()) return;
          check(wanted, true, signal).then(
            (full) => !signal.aborted && isLatest() && update({ report: full }),
            () =>
              !signal.aborted && isLatest() && update({ report: { ...report, searched: false } }),
          );
        }, REMEDY_DELAY_MS);
      } catch (error) {
        if (error instanceof Refusal) update({ answered: wanted, problems: error.problems });
        if (error instanceof Refusal && isLatest()) void say(wanted);
        throw error;
      }
    }, fail);
    pumps.current = { mesh, check: checks };
    return () => {
      abort.abort();
      remedies?.abort();
    };
  }, []);

  useEffect(() => {
    if (!recipe) return;
    edited();
    pumps.current?.mesh.want({ recipe, chordError, at });
  }, [recipe, chordError, at]);

  useEffect(() => {
    if (recipe) pumps.current?.check.want(recipe);
  }, [recipe]);
  return state;
}

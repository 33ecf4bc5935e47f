/** The part that a recipe makes, kept up with every edit; the last good one stays where one fails. Its shape
 * comes first, and by itself: what stands about it is drawn again once its checks are there. */

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
import type { Piece } from "../bench/geometry";
import { useDesk, useRecipe } from "./bench";
import { Pump } from "./pump";
import { edited } from "./timing";

export interface PartState<R extends Said = Said, T extends AnyRecipe = AnyRecipe> {
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

/** A mesh to be shown; with a chord error, mm, as fine as that; of a spring, at a length, mm, or an
 * angle, degrees. */
interface Wish {
  recipe: AnyRecipe;
  chordError: number | null;
  at: number | null;
  /** It is but finer than what is shown of the same. */
  finer?: boolean;
}

const REMEDY_DELAY_MS = 200;
const SHARPEN_DELAY_MS = 300;
const EMPTY: PartState = {
  report: null,
  reported: null,
  words: {},
  problems: [],
  answered: null,
  offline: false,
};

/** The part of the recipe that is on the bench, once it is `ready`; asked for as it changes, before anything
 * is drawn. */
export function usePart(ready: boolean): { part: PartState; pieces: Piece[] } {
  const [part, setPart] = useState<PartState>(EMPTY);
  const [pieces, setPieces] = useState<Piece[]>([]);
  const pump = useRef<Pump<Wish> | null>(null);

  useEffect(() => {
    const abort = new AbortController();
    let remedies: AbortController | null = null;
    let checked: AnyRecipe | null = null;
    const update = (change: Partial<PartState>) => {
      if (!abort.signal.aborted) setPart((old) => ({ ...old, ...change }));
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
      if (wanted.recipe !== checked) remedies?.abort();
      try {
        const glb = await preview(wanted.recipe, abort.signal, wanted.chordError, wanted.at);
        const { piecesOf } = await import("../bench/geometry");
        setPieces(await piecesOf(glb));
        setPart((old) => (old.offline ? { ...old, offline: false } : old));
      } catch (error) {
        if (!wanted.finer || !(error instanceof Refusal)) throw error;
      } finally {
        if (wanted.recipe !== checked) checks.want((checked = wanted.recipe));
      }
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
    pump.current = mesh;
    return () => {
      abort.abort();
      remedies?.abort();
    };
  }, []);

  useEffect(() => {
    if (!ready) return;
    let last: (Wish & { sharp: number | null }) | null = null;
    let timer: number | undefined;
    const want = () => {
      const { recipe } = useRecipe.getState();
      const { chordError, drawn: at, sharp } = useDesk.getState();
      if (!recipe) return;
      const same = recipe === last?.recipe && chordError === last.chordError && at === last.at;
      if (same && sharp === last?.sharp) return;
      last = { recipe, chordError, at, sharp };
      clearTimeout(timer);
      if (!same) {
        edited();
        pump.current?.want({ recipe, chordError, at });
      }
      if (sharp !== null && chordError === null)
        timer = window.setTimeout(
          () => pump.current?.want({ recipe, chordError: sharp, at, finer: true }),
          SHARPEN_DELAY_MS,
        );
    };
    want();
    const ends = [useRecipe.subscribe(want), useDesk.subscribe(want)];
    return () => {
      clearTimeout(timer);
      ends.forEach((end) => end());
    };
  }, [ready]);
  useEffect(() => () => pieces.forEach((piece) => piece.geometry.dispose()), [pieces]);
  return { part, pieces };
}

/** Saves the recipe as a new revision shortly after the last edit; never over another tab's work. */

import { useCallback, useEffect, useRef, useState } from "react";
import { answer, client, Refusal, type AnyRecipe, type Design } from "../api/client";

const DELAY_MS = 700;

export interface Saving {
  revision: number;
  state: "saved" | "waiting" | "saving" | "conflict" | "offline";
  /** Why it is not saved, in a few words. */
  trouble: string;
  /** Save at once what is not saved yet; the newest revision's number, or null where it failed. */
  flush: () => Promise<number | null>;
  /** Take the newest saved revision in place of this tab's recipe. */
  takeTheirs: () => Promise<Design>;
  /** Keep this tab's recipe as a new design. */
  keepMine: () => Promise<Design>;
}

function troubleOf(error: unknown): string {
  if (!(error instanceof Refusal)) return "no answer";
  return error.problems[0]?.reason ?? `refused (${error.status})`;
}

export function useAutosave(design: Design, recipe: AnyRecipe | null): Saving {
  const [revision, setRevision] = useState(design.revision);
  const [state, setState] = useState<Saving["state"]>("saved");
  const [trouble, setTrouble] = useState("");
  const based = useRef(design.revision);
  const saved = useRef<unknown>(design.recipe);
  const latest = useRef(recipe);
  const running = useRef<Promise<number | null> | null>(null);
  const conflicted = useRef(false);
  useEffect(() => {
    latest.current = recipe;
  }, [recipe]);

  const save = useCallback(async (): Promise<number | null> => {
    const body = latest.current;
    if (!body || body === saved.current) return based.current;
    if (conflicted.current) return null;
    setState("saving");
    try {
      const answered = await answer(
        client.PUT("/api/designs/{design_id}", {
          params: { path: { design_id: design.id } },
          body: { recipe: body as unknown as Record<string, never>, based_on: based.current },
        }),
      );
      based.current = answered.revision;
      saved.current = body;
      setRevision(answered.revision);
      setState(latest.current === body ? "saved" : "waiting");
      return answered.revision;
    } catch (error) {
      conflicted.current = error instanceof Refusal && error.status === 409;
      setTrouble(troubleOf(error));
      setState(conflicted.current ? "conflict" : "offline");
      return null;
    }
  }, [design.id]);

  const flush = useCallback(async (): Promise<number | null> => {
    if (running.current) await running.current;
    running.current = save();
    const result = await running.current;
    running.current = null;
    return result;
  }, [save]);

  useEffect(() => {
    if (!recipe || recipe === saved.current || conflicted.current) return;
    setState("waiting");
    const timer = window.setTimeout(() => void flush(), state === "offline" ? 5000 : DELAY_MS);
    return () => window.clearTimeout(timer);
  }, [recipe, state, flush]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (latest.current !== saved.current) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      void save();
    };
  }, [save]);

  const takeTheirs = useCallback(async () => {
    const newest = await answer(
      client.GET("/api/designs/{design_id}", { params: { path: { design_id: design.id } } }),
    );
    based.current = newest.revision;
    saved.current = newest.recipe;
    conflicted.current = false;
    setRevision(newest.revision);
    setState("saved");
    return newest;
  }, [design.id]);

  const keepMine = useCallback(async () => {
    const mine = await answer(
      client.POST("/api/designs", {
        body: { recipe: latest.current as unknown as Record<string, never> },
      }),
    );
    saved.current = latest.current;
    return mine;
  }, []);

  return { revision, state, trouble, flush, takeTheirs, keepMine };
}

/** Saves the recipe as a new revision shortly after the last edit; never over another tab's work. */

import { useCallback, useEffect, useRef, useState } from "react";
import { answer, client, newDesign, Refusal, type AnyRecipe, type Design } from "../api/client";
import { dropUnsaved, keepUnsaved } from "./unsaved";

const DELAY_MS = 700;

/** What is worked on: a design of the shelf, or one that comes to be there with its first edit. */
export type OnBench = Pick<Design, "recipe" | "revision"> & {
  id: string | null;
  /** The revision that edits kept in this browser stand on; they are to be saved. */
  unsavedOn?: number;
};

export interface Saving {
  /** The design's id; null while it is not on the shelf. */
  id: string | null;
  revision: number;
  state: "new" | "saved" | "waiting" | "saving" | "conflict" | "offline";
  /** Why it is not saved, in a few words. */
  trouble: string;
  /** Save at once what is not saved yet; the design and its newest revision, or null where it failed. */
  flush: () => Promise<{ id: string; revision: number } | null>;
  /** Take the newest saved revision in place of this tab's recipe. */
  takeTheirs: () => Promise<Design>;
  /** Keep this tab's recipe as a new design of this name. */
  keepMine: (name: string) => Promise<Design>;
}

/** The saves under way, each with the design that it is of. */
const underWay = new Map<Promise<unknown>, { current: { id: string | null } }>();

/** Once a design is not being saved any more: what is fetched then is its newest. */
export async function savesEnded(id: string): Promise<void> {
  await Promise.all([...underWay].filter(([, of]) => of.current.id === id).map(([one]) => one));
}

function troubleOf(error: unknown): string {
  if (!(error instanceof Refusal)) return "no answer";
  return error.problems[0]?.reason ?? `refused (${error.status})`;
}

const pageOf = (id: string) => `/designs/${id}`;

export function useAutosave(design: OnBench, recipe: AnyRecipe | null): Saving {
  const [id, setId] = useState(design.id);
  const [revision, setRevision] = useState(design.revision);
  const [state, setState] = useState<Saving["state"]>(design.id === null ? "new" : "saved");
  const [trouble, setTrouble] = useState("");
  const known = useRef({ id: design.id, based: design.unsavedOn ?? design.revision });
  const saved = useRef<unknown>(design.unsavedOn === undefined ? design.recipe : null);
  const page = useRef(window.location.pathname);
  const latest = useRef(recipe);
  const last = useRef<ReturnType<Saving["flush"]>>(Promise.resolve(null));
  const conflicted = useRef(false);
  useEffect(() => {
    latest.current = recipe;
    if (recipe && recipe !== saved.current)
      keepUnsaved(page.current, { recipe, based: known.current.based });
  }, [recipe]);

  const save = useCallback(async (): ReturnType<Saving["flush"]> => {
    const body = latest.current;
    const { id: design_id, based } = known.current;
    if (!body || (body === saved.current && design_id))
      return design_id ? { id: design_id, revision: based } : null;
    if (conflicted.current) return null;
    setState("saving");
    const sent = body as unknown as Record<string, never>;
    try {
      const answered = await answer(
        design_id
          ? client.PUT("/api/designs/{design_id}", {
              params: { path: { design_id } },
              body: { recipe: sent, based_on: based },
            })
          : client.POST("/api/designs", { body: { recipe: sent } }),
      );
      known.current = { id: answered.id, based: answered.revision };
      saved.current = body;
      if (!design_id) {
        dropUnsaved(page.current);
        page.current = pageOf(answered.id);
        window.history.replaceState(window.history.state, "", page.current);
        setId(answered.id);
      }
      if (latest.current === body) dropUnsaved(page.current);
      else keepUnsaved(page.current, { recipe: latest.current!, based: answered.revision });
      setRevision(answered.revision);
      setState(latest.current === body ? "saved" : "waiting");
      return { id: answered.id, revision: answered.revision };
    } catch (error) {
      conflicted.current = error instanceof Refusal && error.status === 409;
      setTrouble(troubleOf(error));
      setState(conflicted.current ? "conflict" : "offline");
      return null;
    }
  }, []);

  /** Each save begins where the one before it ended: two at once would stand on the same revision. */
  const flush = useCallback(() => {
    const one = last.current.then(save);
    last.current = one;
    underWay.set(one, known);
    void one.finally(() => underWay.delete(one));
    return one;
  }, [save]);

  useEffect(() => {
    if (!recipe || recipe === saved.current || conflicted.current) return;
    setState((old) => (old === "saved" || old === "new" ? "waiting" : old));
    const timer = window.setTimeout(() => void flush(), state === "offline" ? 5000 : DELAY_MS);
    return () => window.clearTimeout(timer);
  }, [recipe, state, flush]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (latest.current && latest.current !== saved.current) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      if (latest.current !== saved.current) void flush();
    };
  }, [flush]);

  const takeTheirs = useCallback(async () => {
    const { id: design_id } = known.current;
    const newest = await answer(
      client.GET("/api/designs/{design_id}", { params: { path: { design_id: design_id! } } }),
    );
    known.current = { id: newest.id, based: newest.revision };
    saved.current = newest.recipe;
    conflicted.current = false;
    dropUnsaved(page.current);
    setRevision(newest.revision);
    setState("saved");
    return newest;
  }, []);

  const keepMine = useCallback(async (name: string) => {
    const mine = { ...latest.current, name } as unknown as Record<string, never>;
    const made = await newDesign(mine);
    saved.current = latest.current;
    dropUnsaved(page.current);
    return made;
  }, []);

  return { id, revision, state, trouble, flush, takeTheirs, keepMine };
}

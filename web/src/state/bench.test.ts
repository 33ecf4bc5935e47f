import { beforeEach, describe, expect, it, vi } from "vitest";
import type { AnyRecipe } from "../api/client";
import { useRecipe } from "./bench";

const recipe = { path: { turns: 8, pitch: 6 } } as unknown as AnyRecipe;
const { load, set } = useRecipe.getState();
const history = useRecipe.temporal.getState;
const path = () =>
  (useRecipe.getState().recipe as unknown as typeof recipe & { path: object })?.path;

describe("undo", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    load(recipe);
    history().clear();
  });

  it("takes back an edit that follows the opening at once", () => {
    set("/path/pitch", 7);
    history().undo();
    expect(path()).toEqual({ turns: 8, pitch: 6 });
  });
  it("takes back a burst of one place together, and of another place by itself", () => {
    set("/path/pitch", 7);
    set("/path/pitch", 7.5);
    set("/path/turns", 9);
    history().undo();
    expect(path()).toEqual({ turns: 8, pitch: 7.5 });
    history().undo();
    expect(path()).toEqual({ turns: 8, pitch: 6 });
  });
  it("keeps what was there before an edit that follows an undoing at once", () => {
    set("/path/pitch", 7);
    vi.advanceTimersByTime(1000);
    set("/path/pitch", 8);
    history().undo();
    set("/path/pitch", 9);
    expect(history().futureStates).toHaveLength(0);
    history().undo();
    expect(path()).toEqual({ turns: 8, pitch: 7 });
  });
});

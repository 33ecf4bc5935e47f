/** The server's API, with the types of its own schema. */

import createClient from "openapi-fetch";
import type { components, paths } from "../generated/api";

export type Schemas = components["schemas"];
export type Recipe = Schemas["Recipe"];
export type ThreadRecipe = Schemas["ThreadRecipe"];
export type AnyRecipe = Recipe | ThreadRecipe;
/** What is said of any part. */
export type Said = Pick<
  Schemas["ReportOut"],
  "verdict" | "figures" | "checks" | "why" | "searched" | "bodies" | "values"
>;
export type Report = Schemas["ReportOut"];
export type Spring = Schemas["SpringOut"];
export type FoundSpring = Schemas["FoundSpringOut"];
export type Wish = Schemas["Wish"];
export type ThreadReport = Schemas["ThreadReportOut"];
export type Standard = Schemas["ThreadOut"];
export type Profiles = Schemas["ProfilesOut"];
export type SavedForm = Schemas["FormOut"];
export type ThreadRow = Schemas["ThreadRowOut"];
export type Candidate = Schemas["CandidateOut"];
export type Check = Schemas["CheckOut"];
export type Remedy = Schemas["RemedyOut"];
export type Problem = Schemas["ProblemOut"];
export type Design = Schemas["DesignOut"];
export type ShelfItem = Schemas["ShelfItem"];
export type Build = Schemas["BuildOut"];
export type Slice = Schemas["SliceOut"];
export type Proof = Schemas["ProofOut"];

type Loops = Extract<Recipe["section"], { kind: "free" }>["loops"];
/** What was read of a drawing: its loops, in mm, and what is not right in it. */
export interface Drawing {
  loops: (Omit<Loops[number], "points"> & { points: number[][] })[];
  faults: Schemas["FaultOut"][];
}

export const client = createClient<paths>({ baseUrl: "/" });

/** The server refused; `problems` say why, `head` is set where another save came first. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly problems: Problem[],
    readonly head?: number,
  ) {
    super(problems.map((p) => `${p.reason}; ${p.remedy}`).join("\n") || `status ${status}`);
  }
}

export function refusalOf(status: number, body: unknown): Refusal {
  const { problems = [], head } = (body ?? {}) as { problems?: Problem[]; head?: number };
  return new Refusal(status, problems, head);
}

/** The data of an answer, or a Refusal thrown. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (error !== undefined || !response.ok) throw refusalOf(response.status, error);
  return data as T;
}

/** The part's preview as the bytes of a GLB file. */
export async function preview(
  recipe: AnyRecipe,
  signal: AbortSignal,
  chordError: number | null = null,
  at: number | null = null,
): Promise<ArrayBuffer> {
  const query = new URLSearchParams();
  if (chordError !== null) query.set("chord_error", String(chordError));
  if (at !== null) query.set("at", String(at));
  const response = await fetch(`/api/parts/preview?${query}`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(recipe),
    signal,
  });
  if (!response.ok) throw refusalOf(response.status, await response.json().catch(() => null));
  return response.arrayBuffer();
}

/** The data sheet of a spring as a file. */
export async function springSheet(recipe: Recipe, suffix: ".html" | ".pdf"): Promise<Blob> {
  const response = await fetch(`/api/springs/sheet?suffix=${suffix}`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(recipe),
  });
  if (!response.ok) throw refusalOf(response.status, await response.json().catch(() => null));
  return response.blob();
}

/** The cut through a part at a true length, mm, with what is near it. */
export function slice(recipe: Recipe, at: number, signal: AbortSignal): Promise<Slice> {
  return answer(
    client.POST("/api/parts/slice", { params: { query: { at } }, body: recipe, signal }),
  );
}

/** The loops of a DXF or SVG file; `unit` is that of a drawing which does not say its own. */
export async function readDrawing(file: File, unit: string): Promise<Drawing> {
  const form = new FormData();
  form.append("file", file);
  form.append("unit", unit);
  const response = await fetch("/api/parts/drawing", { method: "POST", body: form });
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok) throw refusalOf(response.status, body);
  return body as Drawing;
}

export function isThreaded(recipe: AnyRecipe): recipe is ThreadRecipe {
  return "thread" in recipe;
}

/** Figures and checks of a recipe, a Report or a ThreadReport by its kind. */
export function check(recipe: AnyRecipe, remedies: boolean, signal: AbortSignal): Promise<Said> {
  if (isThreaded(recipe)) {
    return answer(
      client.POST("/api/threads/check", { params: { query: { remedies } }, body: recipe, signal }),
    );
  }
  return answer(
    client.POST("/api/parts/check", { params: { query: { remedies } }, body: recipe, signal }),
  );
}

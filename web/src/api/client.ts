/** The server's API, with the types of its own schema. */

import createClient from "openapi-fetch";
import type { components, paths } from "../generated/api";
import { keepBlob } from "../look/keepBlob";

export type Schemas = components["schemas"];
export type Recipe = Schemas["Recipe"];
export type ThreadRecipe = Schemas["ThreadRecipe"];
export type AnyRecipe = Recipe | ThreadRecipe;
/** What is said of any part. */
export type Said = Pick<
  Schemas["ReportOut"],
  | "verdict"
  | "figures"
  | "headline"
  | "checks"
  | "why"
  | "searched"
  | "bodies"
  | "values"
  | "variables"
  | "words"
  | "outputs"
>;
export type Report = Schemas["ReportOut"];
export type Spring = Schemas["SpringOut"];
export type Scatter = Schemas["Scatter"];
export type ExactElasticity = Schemas["Exact"];
export type FoundSprings = Schemas["FoundSpringsOut"];
export type FoundSpring = Schemas["Found"];
export type Wish = Schemas["Wish"];
export type ThreadReport = Schemas["ThreadReportOut"];
export type Standard = Schemas["ThreadOut"];
export type Profiles = Schemas["ProfilesOut"];
export type SavedForm = Schemas["FormOut"];
export type ThreadRow = Schemas["Row"];
export type Candidate = Schemas["CandidateOut"];
export type Check = Schemas["CheckOut"];
export type Remedy = Schemas["Remedy"];
export type Problem = Schemas["Problem"];
export type Design = Schemas["DesignOut"];
export type ShelfItem = Schemas["ShelfItem"];
export type Build = Schemas["BuildOut"];
export type Slice = Schemas["SliceOut"];
export type Comparison = Schemas["ComparisonOut"];
export type Held = Schemas["HeldAgainst"];
export type Input = Schemas["Input"];
export type Survey = Schemas["SurveyOut"];
export type Found = Schemas["Survey"];
export type Wound = Schemas["WoundOut"];
export type LoadTest = Schemas["LoadTestOut"];
export type ReferenceBody = NonNullable<NonNullable<Recipe["fit"]>["bodies"]>[number];
export type Ran = Schemas["RanOut"];
export type Session = Schemas["SessionOut"];
export type TakenIn = Schemas["TakenInOut"];
export type Proof = Schemas["ProofOut"];

type Loops = Extract<Recipe["section"], { kind: "free" }>["loops"];
/** What was read of a drawing: its loops, in mm, and what is not right in it. */
export type Drawing = Omit<Schemas["DrawingOut"], "loops"> & {
  loops: (Omit<Loops[number], "points"> & { points: number[][] })[];
};

export type Traced = Schemas["Traced"];
export type ProofBook = Schemas["ProofBookOut"];

let mark = "";

/** The mark that every change carries in team mode, so that no other site can ask for it. */
export function setMark(next: string): void {
  mark = next;
}

async function send(request: Request): Promise<Response> {
  if (mark && request.method !== "GET") request.headers.set("X-CSRFToken", mark);
  const response = await fetch(request);
  if (response.status === 401) window.dispatchEvent(new Event("metaspira-signed-out"));
  return response;
}

export const client = createClient<paths>({ baseUrl: "/", fetch: send });

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

/** The book of proof, or what it has about one figure. */
export function proofs(figure: string | null): Promise<ProofBook> {
  return answer(client.GET("/api/verification", { params: { query: { figure } } }));
}

/** Puts a recipe on the shelf. */
export const newDesign = (recipe: object): Promise<Design> =>
  answer(client.POST("/api/designs", { body: { recipe: recipe as Record<string, never> } }));

/** A sentence for each step of a recipe, whether or not it makes a part. */
export function sentences(recipe: AnyRecipe, signal: AbortSignal): Promise<Record<string, string>> {
  return answer(client.POST("/api/parts/words", { body: recipe, signal }));
}

/** A usual instance of a kind, by its name in the schema, about `size` across in the recipe's unit. */
export async function usual<T extends object>(name: string, size: number): Promise<T> {
  const query = { name, size };
  return (await answer(client.GET("/api/parts/usual", { params: { query } }))) as T;
}

/** The answer to a recipe that is no JSON, or a Refusal thrown. */
async function posted(
  address: string,
  recipe: unknown,
  signal: AbortSignal | null = null,
): Promise<Response> {
  const response = await send(
    new Request(address, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(recipe),
      signal,
    }),
  );
  if (!response.ok) throw refusalOf(response.status, await response.json().catch(() => null));
  return response;
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
  const response = await posted(`/api/parts/preview?${query}`, recipe, signal);
  return response.arrayBuffer();
}

/** Make a file of a recipe and keep it, by its name; `key` is that of one of the part's outputs. */
export async function keepFile(key: string, recipe: AnyRecipe): Promise<void> {
  const response = await posted(`/api/parts/files/${key}`, recipe);
  keepBlob(await response.blob(), `${recipe.name ?? "part"}.${key}`);
}

/** The cut through a part at a true length, mm, with what is near it. */
export function slice(recipe: Recipe, at: number, signal: AbortSignal): Promise<Slice> {
  return answer(
    client.POST("/api/parts/slice", { params: { query: { at } }, body: recipe, signal }),
  );
}

/** Send a file with what belongs to it; `unit` is that of one which does not say its own. */
async function sendFile<T>(
  address: string,
  file: File,
  unit = "",
  more: Record<string, string> = {},
): Promise<T> {
  const form = new FormData();
  form.append("file", file);
  form.append("unit", unit);
  Object.entries(more).forEach(([name, text]) => form.append(name, text));
  const response = await send(new Request(address, { method: "POST", body: form }));
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok) throw refusalOf(response.status, body);
  return body as T;
}

/** Put what an archive of a shelf holds on this one. */
export const bringShelfIn = (file: File) => sendFile<TakenIn>("/api/shelf/archive", file);

/** The loops of a DXF or SVG file. */
export const readDrawing = (file: File, unit: string) =>
  sendFile<Drawing>("/api/parts/drawing", file, unit);

/** The files that a body is read from, as a chooser of files takes them. */
export const BODY_FILES = ".stl,.obj,.ply,.glb,.3mf,.step,.stp";

/** What is traced: bodies, and the points of scans. */
export const SCAN_FILES = `${BODY_FILES},.xyz,.csv`;

/** A reference body from a file. */
export const readBody = (file: File, unit: string) =>
  sendFile<ReferenceBody>("/api/parts/body", file, unit);

/** A recipe held against a body from a file. */
export const holdAgainst = (file: File, unit: string, recipe: unknown) =>
  sendFile<Held>("/api/compare/body", file, unit, { recipe: JSON.stringify(recipe) });

/** Readings of a made spring from a table: length, mm, and force, N; `units` are those of one that does not tell its own. */
export const readReadings = (file: File, units: string) =>
  sendFile<number[][]>("/api/springs/readings", file, units);

/** What the simulated tester reads, as the table that a measured spring is read from. */
export async function keepReadings(trial: Schemas["Trial"]): Promise<void> {
  const response = await posted("/api/workshop/readings", trial);
  keepBlob(await response.blob(), "readings.csv");
}

/** Starts tracing a scanned body. */
export const startTrace = (file: File, unit: string) =>
  sendFile<Schemas["TraceOut"]>("/api/jobs/traces", file, unit);

/** Traces a scan that is made up. */
export async function traceSample() {
  const sent = await fetch("/api/starts/scan/sample");
  if (!sent.ok) throw new Error("the made-up scan could not be fetched; try again");
  return startTrace(new File([await sent.blob()], "made-up-scan.stl"), "mm");
}

/** A path through points from a file. */
export const readCurve = (file: File, unit: string) =>
  sendFile<Schemas["CurveOut"]>("/api/parts/curve", file, unit);

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

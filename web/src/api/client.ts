/** The server's API, with the types of its own schema. */

import createClient from "openapi-fetch";
import type { components, paths } from "../generated/api";

export type Schemas = components["schemas"];
export type Recipe = Schemas["Recipe"];
export type Report = Schemas["ReportOut"];
export type Check = Schemas["CheckOut"];
export type Remedy = Schemas["RemedyOut"];
export type Problem = Schemas["ProblemOut"];
export type Design = Schemas["DesignOut"];
export type ShelfItem = Schemas["ShelfItem"];
export type Build = Schemas["BuildOut"];

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
export async function preview(recipe: Recipe, signal: AbortSignal): Promise<ArrayBuffer> {
  const response = await fetch("/api/parts/preview", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(recipe),
    signal,
  });
  if (!response.ok) throw refusalOf(response.status, await response.json().catch(() => null));
  return response.arrayBuffer();
}

export function check(recipe: Recipe, remedies: boolean, signal: AbortSignal): Promise<Report> {
  return answer(
    client.POST("/api/parts/check", { params: { query: { remedies } }, body: recipe, signal }),
  );
}

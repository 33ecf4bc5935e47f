/** Long work that the server does behind: a build, a survey, a run-through, a trace. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "./client";

type AnyJob = Schemas["BuildOut"] | Schemas["SurveyOut"] | Schemas["RunOut"] | Schemas["TraceOut"];
type JobOf<K extends AnyJob["kind"]> = Extract<AnyJob, { kind: K }>;

/** Long work that was asked for. */
export interface Followed<J extends AnyJob = AnyJob> {
  /** It as it is now. */
  job: J | undefined;
  /** Whether it is being asked for, waits or runs. */
  running: boolean;
  /** Why it could not be asked for, or done. */
  trouble: string | undefined;
  /** Stops it, as soon as it is known to the server. */
  stop: (() => void) | undefined;
}

export interface LongWork<J extends AnyJob = AnyJob> extends Followed<J> {
  start: () => void;
}

/** Work of a kind and an id, followed until it ends. */
export function useFollowed<K extends AnyJob["kind"]>(
  kind: K,
  id: string | null,
): Followed<JobOf<K>> {
  const path = { job_id: id ?? "" };
  const { data } = useQuery({
    queryKey: [kind, id],
    enabled: id !== null,
    queryFn: () => answer(client.GET("/api/jobs/{job_id}", { params: { path } })),
    refetchInterval: (query) => (isRunning(query.state.data) ? 300 : false),
  });
  const stop = useMutation({
    mutationFn: () => answer(client.POST("/api/jobs/{job_id}/cancel", { params: { path } })),
  });
  const job = data as JobOf<K> | undefined;
  return {
    job,
    running: id !== null && isRunning(job),
    trouble: job?.error || undefined,
    stop: job ? () => stop.mutate() : undefined,
  };
}

/** Work of a kind, started by `ask`, and followed until it ends; until then, what was done `earlier`. */
export function useLongWork<K extends AnyJob["kind"]>(
  kind: K,
  ask: () => Promise<AnyJob>,
  earlier: string | null = null,
): LongWork<JobOf<K>> {
  const [asked, setId] = useState<string | null>(null);
  const start = useMutation({ mutationFn: ask, onSuccess: (job) => setId(job.id) });
  const followed = useFollowed(kind, asked ?? earlier);
  return {
    ...followed,
    running: start.isPending || followed.running,
    trouble: start.error?.message ?? followed.trouble,
    start: () => start.mutate(),
    stop: start.isPending ? undefined : followed.stop,
  };
}

/** The builds of a design that is on the shelf, the newest first. */
export function useBuilds(designId: string | null) {
  return useQuery({
    queryKey: ["builds", designId],
    enabled: designId !== null,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/builds", {
          params: { path: { design_id: designId! } },
        }),
      ),
    refetchOnWindowFocus: false,
  }).data;
}

/** Starts a build of a design in some formats, by their suffixes, or the usual ones; no chord error is the usual one. */
export function startBuild(designId: string, formats?: string[], chordError: number | null = null) {
  return answer(
    client.POST("/api/designs/{design_id}/builds", {
      params: { path: { design_id: designId } },
      body: { ...(formats && { formats }), chord_error: chordError },
    }),
  );
}

/** The address of a file of a job that is done. */
export function fileOf(job: AnyJob, suffix: string): string {
  return `/api/jobs/${job.id}/files/${suffix.replace(/^\./, "")}`;
}

function isRunning(job: AnyJob | undefined): boolean {
  return job === undefined || job.state === "queued" || job.state === "running";
}

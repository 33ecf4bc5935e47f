/** Long work that the server does behind. */

import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "./client";

/** How far any job is. */
export type Job = Pick<Schemas["SurveyOut"], "id" | "state" | "progress" | "step" | "error">;

/** Whether a job still waits or runs; one that was only just asked for has no state yet. */
export function isRunning(job: Pick<Job, "state"> | undefined): boolean {
  return job === undefined || job.state === "queued" || job.state === "running";
}

/** A job as it is now, asked for again until it ends; none without an id. */
export function useJob<T extends Job>(
  kind: string,
  id: string | null,
  read: (id: string) => Promise<T>,
): T | undefined {
  const { data } = useQuery({
    queryKey: [kind, id],
    enabled: id !== null,
    queryFn: () => read(id!),
    refetchInterval: (query) => (isRunning(query.state.data) ? 300 : false),
  });
  return data;
}

/** Designs as they were saved once: a revision never changes. */

import { useQuery } from "@tanstack/react-query";
import { answer, client } from "./client";

export function revisionOf(design: string, number: number) {
  return answer(
    client.GET("/api/designs/{design_id}/revisions/{number}", {
      params: { path: { design_id: design, number } },
    }),
  );
}

/** A revision of a design; none where there is no design, or no such number. */
export function useRevision(design: string | null, number: number) {
  return useQuery({
    queryKey: ["design", design, number],
    enabled: design !== null && number > 0,
    queryFn: () => revisionOf(design!, number),
    refetchOnWindowFocus: false,
    staleTime: Infinity,
  });
}

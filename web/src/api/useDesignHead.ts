import { useQuery } from "@tanstack/react-query";
import { answer, client } from "./client";

/** A design at its newest revision, asked for anew by each page that opens. */
export function useDesignHead(id: string) {
  return useQuery({
    queryKey: ["design", id, "head"],
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
}

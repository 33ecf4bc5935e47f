import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { answer, client } from "../api/client";
import { CannotOpen, Opening } from "../look/Opening";
import { Bench } from "./Bench";

/** Fetches the design, then works on it. */
export function BenchPage() {
  const { id = "" } = useParams();
  const { data, error } = useQuery({
    queryKey: ["design", id],
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  if (error) return <CannotOpen error={error} />;
  if (!data) return <Opening />;
  return <Bench key={data.id} design={data} />;
}

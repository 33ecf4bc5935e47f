import { useQuery } from "@tanstack/react-query";
import { answer, client, type AnyRecipe, type Design } from "../api/client";

/** What of a design's recipe holds a number and can be given another one. */
export function useInputs(design: Design) {
  const recipe = design.recipe as unknown as AnyRecipe;
  return useQuery({
    queryKey: ["inputs", design.id, design.revision],
    queryFn: () => answer(client.POST("/api/parts/inputs", { body: recipe })),
    refetchOnWindowFocus: false,
    retry: false,
  });
}

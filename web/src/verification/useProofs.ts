import { useQuery } from "@tanstack/react-query";
import { proofs } from "../api/client";

/** The rows of the book of proof that hold a figure; all of them where none is named. */
export function useProofs(figure: string | null) {
  return useQuery({
    queryKey: ["verification", figure],
    queryFn: () => proofs(figure),
    staleTime: Infinity,
  });
}

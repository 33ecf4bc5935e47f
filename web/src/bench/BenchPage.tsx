import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useParams, useSearchParams } from "react-router";
import { answer, client } from "../api/client";
import { CannotOpen, Opening } from "../look/Opening";
import type { LengthUnit } from "../look/numbers";
import { unsavedOf } from "../state/unsaved";
import { savesEnded, type OnBench } from "../state/useAutosave";
import { Bench } from "./Bench";

const FRESH = { staleTime: 0, gcTime: 0, refetchOnWindowFocus: false };

/** Fetches the design, then works on it. */
export function BenchPage() {
  const { id = "" } = useParams();
  const { data, error } = useQuery({
    queryKey: ["design", id],
    queryFn: async () => {
      await savesEnded(id);
      return answer(
        client.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } }),
      );
    },
    ...FRESH,
  });
  return <OnceFetched design={data} error={error} />;
}

/** Works on a starting point, which comes to the shelf with its first edit. */
export function NewDesignPage() {
  const { start = "" } = useParams();
  const [search] = useSearchParams();
  const unit = (search.get("unit") ?? "mm") as LengthUnit;
  const { data, error } = useQuery({
    queryKey: ["start", start, unit],
    queryFn: () =>
      answer(
        client.GET("/api/starts/{name}", { params: { path: { name: start }, query: { unit } } }),
      ),
    ...FRESH,
  });
  const design = useMemo(() => data && { id: null, revision: 0, recipe: data }, [data]);
  return <OnceFetched design={design as OnBench | undefined} error={error} />;
}

function OnceFetched(props: { design: OnBench | undefined; error: Error | null }) {
  const { design, error } = props;
  const kept = useMemo(() => design && withUnsaved(design), [design]);
  if (error) return <CannotOpen error={error} />;
  if (!kept) return <Opening />;
  return <Bench key={kept.id} design={kept} />;
}

/** The design with the edits that this browser kept of it, where the server never had them. */
function withUnsaved(design: OnBench): OnBench {
  const unsaved = unsavedOf(window.location.pathname);
  if (!unsaved) return design;
  return {
    ...design,
    recipe: unsaved.recipe as unknown as OnBench["recipe"],
    unsavedOn: unsaved.based,
  };
}

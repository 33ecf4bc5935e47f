import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useDesignHead } from "../api/useDesignHead";
import { CannotOpen, Opening } from "../look/Opening";
import { Sides, type Given } from "./Sides";

/** Two revisions, of one design or of two, or a revision and a body from a file, side by side: what was changed, what it changed,
 * and both shapes. */
export function ComparePage() {
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const { data: head, error: lost } = useDesignHead(id);
  const [given, setGiven] = useState<Given | null>(null);
  const otherId = search.get("other") ?? id;
  const { data: other, error: otherLost } = useDesignHead(otherId);
  const error = lost ?? otherLost;
  if (error) return <CannotOpen error={error} />;
  if (!head || !other) return <Opening />;
  const after = Number(search.get("after") || head.revision);
  const usual = otherId === id ? Math.max(after - 1, 1) : other.revision;
  const before = Number(search.get("before") || usual);
  const choose = (change: Record<string, string>) =>
    setSearch({ ...Object.fromEntries(search), ...change }, { replace: true });
  return (
    <Sides
      key={`${otherId} ${before} ${after}`}
      design={head}
      other={other}
      before={before}
      after={after}
      choose={choose}
      given={given}
      onGiven={setGiven}
    />
  );
}

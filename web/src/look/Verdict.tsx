import type { Colours } from "./colours";
import { useLook } from "./Look";

export type VerdictWord = "clear" | "watch" | "stop" | "unusable";

/** Of a design that came in with an archive the verdict may still be unknown. */
type Looked = VerdictWord | "unknown";

const NONE: Partial<Record<Looked, string>> = {
  unusable: "not usable yet",
  unknown: "not checked yet",
};

export const colourOf = (verdict: Looked, colours: Colours) =>
  verdict === "unusable" || verdict === "unknown" ? colours.pencil : colours[verdict];

/** A verdict by shape, word and colour together: disc, triangle, square, ring. */
export function VerdictMark({ verdict, size = 12 }: { verdict: Looked; size?: number }) {
  const { colours } = useLook();
  const colour = colourOf(verdict, colours);
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" style={{ flex: "none" }}>
      {verdict === "clear" && <circle cx="6" cy="6" r="5.2" fill={colour} />}
      {verdict === "watch" && <path d="M6 0.6 L11.6 11 L0.4 11 Z" fill={colour} />}
      {verdict === "stop" && <rect x="0.8" y="0.8" width="10.4" height="10.4" fill={colour} />}
      {verdict in NONE && (
        <circle cx="6" cy="6" r="4.4" fill="none" stroke={colour} strokeWidth="2" />
      )}
    </svg>
  );
}

export function VerdictLabel({ verdict, big = false }: { verdict: Looked; big?: boolean }) {
  const { colours } = useLook();
  const colour = colourOf(verdict, colours);
  return (
    <span
      style={{
        display: "inline-flex",
        alignItems: "center",
        gap: 6,
        color: colour,
        fontWeight: 650,
        fontSize: big ? "1.15rem" : "inherit",
      }}
    >
      <VerdictMark verdict={verdict} size={big ? 16 : 11} />
      {NONE[verdict] ?? verdict}
    </span>
  );
}

import Box from "@mui/material/Box";
import { useLook } from "./Look";

export type VerdictWord = "clear" | "watch" | "stop" | "unusable";

/** A verdict by shape, word and colour together: disc, triangle, square, ring. */
export function VerdictMark({ verdict, size = 12 }: { verdict: VerdictWord; size?: number }) {
  const { colours } = useLook();
  const colour = verdict === "unusable" ? colours.pencil : colours[verdict];
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" style={{ flex: "none" }}>
      {verdict === "clear" && <circle cx="6" cy="6" r="5.2" fill={colour} />}
      {verdict === "watch" && <path d="M6 0.6 L11.6 11 L0.4 11 Z" fill={colour} />}
      {verdict === "stop" && <rect x="0.8" y="0.8" width="10.4" height="10.4" fill={colour} />}
      {verdict === "unusable" && (
        <circle cx="6" cy="6" r="4.4" fill="none" stroke={colour} strokeWidth="2" />
      )}
    </svg>
  );
}

export function VerdictLabel({ verdict, big = false }: { verdict: VerdictWord; big?: boolean }) {
  const { colours } = useLook();
  const colour = verdict === "unusable" ? colours.pencil : colours[verdict];
  return (
    <Box
      component="span"
      sx={{
        display: "inline-flex",
        alignItems: "center",
        gap: 0.75,
        color: colour,
        fontWeight: 650,
        fontSize: big ? "1.15rem" : "inherit",
      }}
    >
      <VerdictMark verdict={verdict} size={big ? 16 : 11} />
      {verdict === "unusable" ? "not usable yet" : verdict}
    </Box>
  );
}

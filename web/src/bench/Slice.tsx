import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { slice, type Slice as Cut } from "../api/client";
import { useLook } from "../look/Look";
import { lengthText } from "../look/numbers";
import { useDesk } from "../state/bench";
import { useUnit, useWoundTold } from "./PartContext";

const SIDE = 190;
const WAIT_MS = 150;

/** The cut through the part where the cursor stands, or else at the worst place, with its neighbours. */
export function Slice() {
  const part = useWoundTold();
  const unit = useUnit();
  const { colours } = useLook();
  const cursor = useDesk((state) => state.cursor);
  const worst = part.report?.checks
    .filter((check) => check.verdict !== "clear")
    .sort((a) => (a.verdict === "stop" ? -1 : 1))
    .flatMap((check) => check.where)[0];
  const place = cursor ?? (worst ? (worst[0]! + worst[1]!) / 2 : 0);
  const [cut, setCut] = useState<Cut | null>(null);
  const recipe = part.reported;
  useEffect(() => {
    if (!recipe) return;
    const abort = new AbortController();
    const timer = window.setTimeout(() => {
      slice(recipe, place, abort.signal).then(setCut, () => undefined);
    }, WAIT_MS);
    return () => {
      window.clearTimeout(timer);
      abort.abort();
    };
  }, [recipe, place]);
  if (!cut) return null;
  const reach = Math.max(...cut.own.map(([u, v]) => Math.hypot(u!, v!)), 1e-9);
  const scale = SIDE / 2 / (3.2 * reach);
  const x = (u: number) => SIDE / 2 + u * scale;
  const y = (v: number) => SIDE / 2 - v * scale;
  const own = cut.own.map(([u, v], i) => `${i ? "L" : "M"}${x(u!)} ${y(v!)}`).join("");
  const near = cut.segments
    .map(([a, b]) => `M${x(a![0]!)} ${y(a![1]!)}L${x(b![0]!)} ${y(b![1]!)}`)
    .join("");
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <svg
        width={SIDE}
        height={SIDE}
        role="img"
        aria-label="Slice"
        style={{ border: `1px solid ${colours.line}`, background: colours.paper }}
      >
        <path d={`${own}Z`} fill={colours.copper} fillOpacity="0.3" />
        <path d={near} stroke={colours.ink} strokeWidth="1.2" fill="none" />
        <path d={`${own}Z`} fill="none" stroke={colours.copper} strokeWidth="2" />
      </svg>
      <Typography component="figcaption" variant="caption">
        Slice at {lengthText(cut.s, unit)}, with what is near
      </Typography>
    </Box>
  );
}

import { later } from "../look/Later";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useMemo, useState } from "react";
import { around } from "../bench/Camera";
import { CutView, type Through } from "./CutView";
import { AFTER, BEFORE, usePieces, type Shown, type Source } from "./sources";

const Overlay3D = later(() => import("./Overlay3D").then((m) => m.Overlay3D));

interface Props {
  /** Null where one side has nothing to be drawn. */
  before: Source | null;
  after: Source;
  /** What each side is called. */
  names: [string, string];
}

const SEEN = [
  ["space", "in 3D"],
  ["axis", "cut through the axis"],
  ["level", "cut across it"],
] as const;

/** Two parts over each other, in space or cut by one plane. */
export function BothShapes({ before, after, names }: Props) {
  const old = usePieces(before);
  const now = usePieces(after);
  const sphere = useMemo(() => around([...old, ...now]), [old, now]);
  const [shown, setShown] = useState<Shown>("both");
  const [seen, setSeen] = useState<Through | "space">("space");
  const [was, is] = names;
  return (
    <Box sx={{ display: "flex", flexDirection: "column", minWidth: 0 }}>
      <Stack
        direction="row"
        sx={{ justifyContent: "space-between", p: 1, borderBottom: 1, borderColor: "divider" }}
      >
        <ToggleButtonGroup
          exclusive
          size="small"
          value={seen}
          onChange={(_, next: Through | "space" | null) => next && setSeen(next)}
          aria-label="Seen"
        >
          {SEEN.map(([value, words]) => (
            <ToggleButton key={value} value={value} sx={{ py: 0.2, textTransform: "none" }}>
              {words}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={shown}
          onChange={(_, next: Shown | null) => next && setShown(next)}
          aria-label="Parts on show"
        >
          <Side value="before" words={was} colour={BEFORE} />
          <ToggleButton value="both" sx={{ py: 0.2, textTransform: "none" }}>
            both
          </ToggleButton>
          <Side value="after" words={is} colour={AFTER} />
        </ToggleButtonGroup>
      </Stack>
      <Box sx={{ position: "relative", flex: 1, minHeight: 0 }}>
        {seen === "space" ? (
          <Overlay3D old={old} now={now} sphere={sphere} shown={shown} />
        ) : (
          sphere && (
            <CutView key={seen} old={old} now={now} sphere={sphere} through={seen} shown={shown} />
          )
        )}
      </Box>
    </Box>
  );
}

function Side(props: { value: "before" | "after"; words: string; colour: string }) {
  const { value, words, colour, ...group } = props;
  return (
    <ToggleButton value={value} sx={{ py: 0.2, textTransform: "none", maxWidth: 150 }} {...group}>
      <Box
        component="span"
        sx={{ width: 10, height: 10, mr: 0.75, flex: "none", borderRadius: "50%", bgcolor: colour }}
      />
      <Box
        component="span"
        sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
      >
        {words}
      </Box>
    </ToggleButton>
  );
}

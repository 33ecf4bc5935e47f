import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import InputBase from "@mui/material/InputBase";
import Typography from "@mui/material/Typography";
import visuallyHidden from "@mui/utils/visuallyHidden";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { isThreaded, type AnyRecipe, type Design } from "../api/client";
import { later } from "../look/Later";
import type { LengthUnit } from "../look/numbers";
import { PageHeader } from "../look/PageHeader";
import { useDesk, useRecipe } from "../state/bench";
import { useAutosave, type Saving } from "../state/useAutosave";
import { usePart } from "../state/usePart";
import { FiguresRail } from "./FiguresRail";
import { PartProvider } from "./PartContext";
import { LengthSlider } from "./spring/LengthSlider";
import { ThreadProfile } from "./thread/ThreadProfile";
import { Trouble } from "./Trouble";
import { WireStrip } from "./WireStrip";

const View3D = later(() => import("./View3D").then((m) => m.View3D));
const Steps = later(() => import("./Steps").then((m) => m.Steps));
const ThreadSteps = later(() => import("./thread/ThreadSteps").then((m) => m.ThreadSteps));

const SAVED: Record<Saving["state"], string> = {
  saved: "saved",
  waiting: "saving…",
  saving: "saving…",
  conflict: "not saved: changed elsewhere",
  offline: "not saved",
};

/** Where one design is worked on: steps left, the part in the middle, figures right, the wire below. */
export function Bench({ design }: { design: Design }) {
  const [opened, setOpened] = useState<Design | null>(null);
  const onBench = useRecipe((state) => state.recipe);
  const recipe = opened === design ? onBench : null;
  const load = useRecipe((state) => state.load);
  const set = useRecipe((state) => state.set);
  const { undo, redo, clear } = useRecipe.temporal.getState();
  const pasts = useStore(useRecipe.temporal, (state) => state.pastStates.length);
  const futures = useStore(useRecipe.temporal, (state) => state.futureStates.length);
  const navigate = useNavigate();
  const setCursor = useDesk((state) => state.setCursor);
  const tellSolid = useDesk((state) => state.tellSolid);
  useEffect(() => {
    load(design.recipe as unknown as AnyRecipe);
    clear();
    setCursor(null);
    tellSolid(null);
    useDesk.getState().showChordError(null);
    useDesk.getState().press(null, null);
    setOpened(design);
  }, [design, load, clear, setCursor, tellSolid]);
  useUndoKeys(undo, redo);
  const chordError = useDesk((state) => state.chordError);
  const drawn = useDesk((state) => state.drawn);
  const part = usePart(recipe, chordError, drawn);
  const saving = useAutosave(design, recipe);
  const unit: LengthUnit = recipe?.unit ?? "mm";
  const context = useMemo(
    () => (recipe ? { recipe, part, saving, designId: design.id, unit } : null),
    [recipe, part, saving, design.id, unit],
  );
  if (!context) return null;
  const threaded = isThreaded(context.recipe);
  return (
    <PartProvider value={context}>
      <Box
        sx={{
          display: "grid",
          height: "100vh",
          gridTemplateColumns: "352px minmax(0, 1fr) 232px",
          gridTemplateRows: "46px minmax(0, 1fr) auto",
        }}
      >
        <PageHeader>
          <Typography component="h1" sx={visuallyHidden}>
            {recipe?.name ?? "Design"}
          </Typography>
          <InputBase
            value={recipe?.name ?? ""}
            onChange={(event) => set("/name", event.target.value)}
            inputProps={{ "aria-label": "Name of the design", maxLength: 120 }}
            sx={{ typography: "h1", fontSize: "1.15rem", flex: 1, px: 0.5 }}
          />
          <Typography variant="body2" color="text.secondary" role="status" data-testid="saved">
            {SAVED[saving.state]}
            {saving.state === "offline" && `: ${saving.trouble}`}, revision {saving.revision}
          </Typography>
          <Button
            variant="text"
            onClick={() => saving.flush().then(() => navigate(`/designs/${design.id}/changes`))}
          >
            Compare
          </Button>
          <Button
            variant="text"
            onClick={() => saving.flush().then(() => navigate(`/designs/${design.id}/survey`))}
          >
            Survey
          </Button>
          {!threaded && (
            <Button
              variant="text"
              onClick={() => saving.flush().then(() => navigate(`/designs/${design.id}/run`))}
            >
              Run-through
            </Button>
          )}
          {!threaded && (
            <Button
              variant="text"
              onClick={() => saving.flush().then(() => navigate(`/designs/${design.id}/winding`))}
            >
              Winding
            </Button>
          )}
          <Button variant="text" disabled={pasts === 0} onClick={() => undo()}>
            Undo
          </Button>
          <Button variant="text" disabled={futures === 0} onClick={() => redo()}>
            Redo
          </Button>
        </PageHeader>
        <Box
          component="nav"
          aria-label="Steps"
          sx={{ gridRow: "2 / -1", overflowY: "auto", borderRight: 1, borderColor: "divider" }}
        >
          {threaded ? <ThreadSteps /> : <Steps />}
        </Box>
        <Box component="main" sx={{ position: "relative", minWidth: 0, minHeight: 0 }}>
          <View3D />
          <Box sx={{ position: "absolute", left: 10, right: 10, bottom: 8 }}>
            <Trouble />
            {!threaded && <LengthSlider />}
          </Box>
        </Box>
        <Box sx={{ px: 1.5, py: 1.25, overflowY: "auto", borderLeft: 1, borderColor: "divider" }}>
          <FiguresRail />
        </Box>
        <Box
          sx={{ gridColumn: "2 / -1", borderTop: 1, borderColor: "divider", pt: 0.5, minWidth: 0 }}
        >
          {threaded ? <ThreadProfile /> : <WireStrip />}
        </Box>
      </Box>
      <ConflictDialog saving={saving} />
    </PartProvider>
  );
}

function useUndoKeys(undo: () => void, redo: () => void) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey)) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [undo, redo]);
}

function ConflictDialog({ saving }: { saving: Saving }) {
  const load = useRecipe((state) => state.load);
  const navigate = useNavigate();
  return (
    <Dialog open={saving.state === "conflict"} aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">This design was changed elsewhere</DialogTitle>
      <DialogContent>
        Another tab or person saved it after you opened it. Both versions are kept: take the newest
        one here, or keep yours as a design of its own.
      </DialogContent>
      <DialogActions>
        <Button
          onClick={async () => load((await saving.takeTheirs()).recipe as unknown as AnyRecipe)}
        >
          Take the newest
        </Button>
        <Button
          variant="contained"
          onClick={async () => navigate(`/designs/${(await saving.keepMine()).id}`)}
        >
          Keep mine as a new design
        </Button>
      </DialogActions>
    </Dialog>
  );
}

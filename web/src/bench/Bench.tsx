import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { isThreaded, type AnyRecipe } from "../api/client";
import { later } from "../look/Later";
import { useDesk, useRecipe } from "../state/bench";
import { useAutosave, type OnBench, type Saving } from "../state/useAutosave";
import { usePart } from "../state/usePart";
import { BenchHeader } from "./BenchHeader";
import { FiguresRail } from "./FiguresRail";
import { NARROW, Panel } from "./Panel";
import { BenchProvider } from "./PartContext";
import { LengthSlider } from "./spring/LengthSlider";
import { ThreadProfile } from "./thread/ThreadProfile";
import { THREAD_STEPS, WOUND_STEPS } from "./stepTitles";
import { Trouble } from "./Trouble";
import { WireStrip } from "./strip/WireStrip";

const View3D = later(() => import("./View3D").then((m) => m.View3D));
const Steps = later(() => import("./Steps").then((m) => m.Steps));
const ThreadSteps = later(() => import("./thread/ThreadSteps").then((m) => m.ThreadSteps));

/** Where one design is worked on: steps left, the part in the middle, figures right, the wire below. */
export function Bench({ design }: { design: OnBench }) {
  const [opened, setOpened] = useState<OnBench | null>(null);
  const onBench = useRecipe((state) => state.recipe);
  const recipe = opened === design ? onBench : null;
  const load = useRecipe((state) => state.load);
  const { clear } = useRecipe.temporal.getState();
  const setCursor = useDesk((state) => state.setCursor);
  const tellSolid = useDesk((state) => state.tellSolid);
  useEffect(() => {
    load(design.recipe as unknown as AnyRecipe);
    clear();
    setCursor(null);
    tellSolid(null);
    useDesk.getState().showChordError(null);
    useDesk.getState().press(null, null);
    useDesk.getState().sharpen(null);
    setOpened(design);
  }, [design, load, clear, setCursor, tellSolid]);
  const narrow = useMediaQuery(NARROW);
  const { part, pieces } = usePart(recipe !== null);
  const saving = useAutosave(design, recipe);
  if (!recipe) return null;
  const threaded = isThreaded(recipe);
  return (
    <BenchProvider recipe={recipe} part={part} saving={saving}>
      <Box
        sx={{
          display: "grid",
          height: "100vh",
          gridTemplateColumns: narrow ? "minmax(0, 1fr)" : "352px minmax(0, 1fr) 232px",
          gridTemplateRows: "46px minmax(0, 1fr) auto",
        }}
      >
        <BenchHeader steps={Object.entries(threaded ? THREAD_STEPS : WOUND_STEPS)} />
        <Panel title="Steps" side="left" width={352}>
          {threaded ? <ThreadSteps /> : <Steps />}
        </Panel>
        <Box
          component="main"
          sx={{
            gridRow: 2,
            gridColumn: narrow ? 1 : 2,
            display: "flex",
            flexDirection: "column",
            minWidth: 0,
            minHeight: 0,
          }}
        >
          <Box sx={{ position: "relative", flex: 1, minHeight: 0 }}>
            <View3D pieces={pieces} />
          </Box>
          <Box sx={{ px: 1.25 }}>
            <Trouble />
            {!threaded && <LengthSlider />}
          </Box>
        </Box>
        <Panel title="Figures" side="right" width={252}>
          <Box sx={{ px: 1.5, py: 1.25 }}>
            <FiguresRail />
          </Box>
        </Panel>
        <Box
          sx={{
            gridColumn: narrow ? 1 : "2 / -1",
            borderTop: 1,
            borderColor: "divider",
            pt: 0.5,
            minWidth: 0,
          }}
        >
          {threaded ? <ThreadProfile /> : <WireStrip />}
        </Box>
      </Box>
      <ConflictDialog saving={saving} name={recipe.name ?? "Unnamed"} />
    </BenchProvider>
  );
}

function ConflictDialog({ saving, name }: { saving: Saving; name: string }) {
  const load = useRecipe((state) => state.load);
  const navigate = useNavigate();
  const [own, setOwn] = useState(`${name}, mine`);
  return (
    <Dialog open={saving.state === "conflict"} aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">This design was changed elsewhere</DialogTitle>
      <DialogContent>
        Another tab or person saved it after you opened it. Both versions are kept: take the newest
        one here, or keep yours as a design of its own.
        <TextField
          label="Name of the new design"
          fullWidth
          value={own}
          onChange={(event) => setOwn(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 120 } }}
          sx={{ mt: 2 }}
        />
      </DialogContent>
      <DialogActions>
        <Button
          onClick={async () => load((await saving.takeTheirs()).recipe as unknown as AnyRecipe)}
        >
          Take the newest
        </Button>
        <Button
          variant="contained"
          disabled={!own.trim()}
          onClick={async () => navigate(`/designs/${(await saving.keepMine(own.trim())).id}`)}
        >
          Keep mine as a new design
        </Button>
      </DialogActions>
    </Dialog>
  );
}

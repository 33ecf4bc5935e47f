import Box from "@mui/material/Box";
import Slider from "@mui/material/Slider";
import Stack from "@mui/material/Stack";
import ToggleButton from "@mui/material/ToggleButton";
import Button from "@mui/material/Button";
import { useEffect, useMemo, useState } from "react";
import type { Vector3 } from "three";
import { useLook } from "../look/Look";
import { lengthText } from "../look/numbers";
import { useDesk, useRecipe } from "../state/bench";
import { around, Camera, VIEWS, type View } from "./Camera";
import type { Piece } from "./geometry";
import { GroundShadow } from "./GroundShadow";
import { useName, useSaving, useThreaded, useTold, useUnit } from "./PartContext";
import { type Settings, useStressShade, usePaint, PartPiece } from "./PartPiece";
import { AboutTheWire } from "./AboutTheWire";
import { MeasuredLine, MeasuredWords } from "./Measure";
import { OtherShape, OtherWords, useOtherRevision } from "./OtherRevision";
import { ScanPlaces, ScanWords } from "./ScanGhost";
import { useScan } from "./scan";
import { Space } from "./Space";
import { TakePicture } from "./TakePicture";

const NO_ENDS: Vector3[] = [];

/** The part in space: orbit, standard views, wire-frame, section plane, and the shared cursor on it. */
export function View3D({ pieces }: { pieces: Piece[] }) {
  const { report } = useTold();
  const unit = useUnit();
  const name = useName();
  const threaded = useThreaded();
  const finished = useRecipe(({ recipe }) => Boolean(recipe?.finish));
  const { id } = useSaving();
  const { colours } = useLook();
  const [settings, setSettings] = useState<Settings>({
    parallel: false,
    wireframe: false,
    cut: null,
  });
  const [wanted, setWanted] = useState<{ view: View; count: number }>({
    view: "Fit",
    count: 0,
  });
  const [pictures, setPictures] = useState(0);
  const [measuring, setMeasuring] = useState(false);
  const [ends, setEnds] = useState(NO_ENDS);
  const drawn = useDesk((state) => state.drawn);
  useEffect(() => setEnds(NO_ENDS), [measuring, drawn]);
  useEffect(() => useRecipe.subscribe(() => setEnds(NO_ENDS)), []);
  const step = useDesk((state) => state.step);
  const asFinished = step === "weigh" || finished;
  usePaint(pieces, report, useStressShade(), asFinished);
  const asExported = useDesk((state) => state.chordError) !== null;
  const look = (view: View) => setWanted((old) => ({ view, count: old.count + 1 }));
  const change = (some: Partial<Settings>) => setSettings((old) => ({ ...old, ...some }));
  const { scan, leave } = useScan();
  const other = useOtherRevision(id);
  const laid = other?.pieces;
  const sphere = useMemo(() => around([...pieces, ...(laid ?? [])]), [pieces, laid]);
  return (
    <Box
      sx={{ position: "absolute", inset: 0 }}
      role="region"
      aria-label="The part in 3D"
      onKeyDown={(event) => {
        const view = ({ f: "Fit", "1": "Top", "2": "Front", "3": "Side" } as const)[event.key];
        if (view && event.target === event.currentTarget.querySelector("[data-space]")) look(view);
      }}
    >
      <div
        data-space
        tabIndex={0}
        aria-label="3D view: F fits, 1 top, 2 front, 3 side"
        role="group"
        style={{ position: "absolute", inset: 0 }}
      >
        <Space>
          <Camera parallel={settings.parallel} sphere={sphere} wanted={wanted} />
          <hemisphereLight args={["#ffffff", "#8a7d6c", 1.5]} />
          <directionalLight position={[-40, -90, 120]} intensity={2.2} />
          <directionalLight position={[90, 40, -30]} intensity={0.6} />
          {pieces.map((piece, index) => (
            <PartPiece
              key={index}
              piece={piece}
              radius={sphere?.radius ?? 1}
              settings={asExported ? { ...settings, wireframe: true } : settings}
              onPlace={
                measuring
                  ? (place) => setEnds((old) => (old.length === 1 ? [...old, place] : [place]))
                  : undefined
              }
            />
          ))}
          <GroundShadow pieces={pieces} />
          {!threaded && <AboutTheWire sphere={sphere} />}
          {scan && <ScanPlaces scan={scan} />}
          {other && <OtherShape pieces={other.pieces} />}
          <MeasuredLine ends={ends} radius={sphere?.radius ?? 1} />
          <TakePicture asked={pictures} name={name ?? "part"} />
        </Space>
      </div>
      <Stack
        direction="row"
        useFlexGap
        sx={{ position: "absolute", top: 8, left: 10, right: 10, gap: 0.5, flexWrap: "wrap" }}
      >
        {(Object.keys(VIEWS) as View[]).map((view) => (
          <Button
            key={view}
            variant="text"
            onClick={() => look(view)}
            sx={{ minWidth: 0, bgcolor: colours.sheet }}
          >
            {view}
          </Button>
        ))}
        <Box sx={{ flex: 1 }} />
        <Button
          variant="text"
          title="Keep a picture of this view, 3840 pixels across on a clear ground"
          onClick={() => setPictures((count) => count + 1)}
          sx={{ minWidth: 0, bgcolor: colours.sheet }}
        >
          Picture
        </Button>
        <Toggle name="Measure" on={measuring} onChange={setMeasuring} />
        <Toggle
          name="Parallel"
          on={settings.parallel}
          onChange={(parallel) => change({ parallel })}
        />
        <Toggle
          name="Wire-frame"
          on={settings.wireframe}
          onChange={(wireframe) => change({ wireframe })}
        />
        <Toggle
          name="Section plane"
          on={settings.cut !== null}
          onChange={(on) => change({ cut: on ? 0 : null })}
        />
      </Stack>
      {scan && <ScanWords scan={scan} unit={unit} onLeave={leave} />}
      {other && <OtherWords number={other.number} />}
      {measuring && <MeasuredWords ends={ends} unit={unit} onAgain={() => setEnds(NO_ENDS)} />}
      {settings.cut !== null && sphere && (
        <Stack
          direction="row"
          spacing={2}
          sx={{
            position: "absolute",
            top: 44,
            right: 16,
            width: 260,
            alignItems: "center",
            bgcolor: colours.sheet,
            px: 1.5,
          }}
        >
          <Slider
            size="small"
            aria-label="Place of the section plane, from the axis"
            min={-1}
            max={1}
            step={0.005}
            value={settings.cut}
            onChange={(_, value) => change({ cut: value })}
          />
          <span style={{ whiteSpace: "nowrap" }}>
            {lengthText(settings.cut * sphere.radius, unit)}
          </span>
        </Stack>
      )}
    </Box>
  );
}

function Toggle(props: { name: string; on: boolean; onChange: (on: boolean) => void }) {
  const { colours } = useLook();
  return (
    <ToggleButton
      value={props.name}
      size="small"
      selected={props.on}
      onChange={() => props.onChange(!props.on)}
      sx={{ py: 0.2, px: 1, textTransform: "none", color: "text.primary", bgcolor: colours.sheet }}
    >
      {props.name}
    </ToggleButton>
  );
}

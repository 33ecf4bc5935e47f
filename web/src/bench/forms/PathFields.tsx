import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { readCurve } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { digits, lengthText, MM } from "../../look/numbers";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { CoilFields } from "./CoilFields";
import { DrawingButton } from "./DrawingButton";
import { FileButton } from "./FileButton";
import { newPath, PATH_KINDS, type Path } from "./kinds";
import { PlanView } from "./PlanView";
import { Rows } from "./Rows";

interface Props {
  /** JSON pointer of the path. */
  place: string;
  label: string;
  /** About how large a new path is, in the recipe's unit. */
  size: number;
  /** Called with the new kind, after the path has changed. */
  onKind?: (kind: Path["kind"]) => void;
}

const HANDS = [
  ["right", "right"],
  ["left", "left"],
] as const;
const EASES = [
  ["straight", "straight, corners rounded"],
  ["smooth", "smooth"],
] as const;

/** A path: its kind and its numbers. */
export function PathFields({ place, label, size, onKind }: Props) {
  const { unit } = usePartContext();
  const path = useRecipe((state) => at(state.recipe, place)) as Path;
  const set = useRecipe((state) => state.set);
  return (
    <Stack spacing={1.5}>
      <Choice
        label={label}
        value={path.kind}
        options={PATH_KINDS}
        onChange={(kind) => {
          if (kind === path.kind) return;
          if (onKind) onKind(kind);
          else set(place, newPath(kind, size));
        }}
      />
      {path.kind === "coil" && <CoilFields place={place} path={path} />}
      {path.kind === "straight" && (
        <ValueField label="Length" place={`${place}/length`} unit={unit} step={1} />
      )}
      {path.kind === "points" && <PointsFields place={place} path={path} />}
      {path.kind === "formula" && <FormulaFields place={place} path={path} size={size} />}
      {path.kind === "winding" && <WindingFields place={place} path={path} size={size} />}
      {path.kind === "wrap" && <WrapFields place={place} path={path} size={size} />}
    </Stack>
  );
}

/** Points from a table, a drawing or a solid's edges, in the recipe's unit. */
function PathFromFile({ place }: { place: string }) {
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const [told, setTold] = useState("");
  return (
    <>
      <FileButton
        label="Take the path from a file"
        accept=".csv,.dxf,.svg,.step,.stp"
        read={readCurve}
        onRead={({ points, closed, deviation, pieces }) => {
          const own = points.map((point) =>
            point.map((value) => Number((value / MM[unit]).toPrecision(12))),
          );
          set(`${place}`, { kind: "points", points: own, closed });
          setTold(
            `${own.length} points, within ${lengthText(deviation, unit)} of the file’s curve` +
              (pieces > 1 ? `, the longest of ${pieces} pieces joined where they meet` : ""),
          );
        }}
      />
      {told && (
        <Typography variant="caption" role="status">
          {told}.
        </Typography>
      )}
    </>
  );
}

function PointsFields(props: { place: string; path: Extract<Path, { kind: "points" }> }) {
  const { place, path } = props;
  const { unit, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const bends = place === "/path" ? (part.report?.points ?? []) : [];
  const reach = part.report?.section.across?.[0]
    ?.map(([u, v]) => Math.hypot(u ?? 0, v ?? 0))
    .reduce((a, b) => Math.max(a, b), 0);
  return (
    <>
      <PlanView place={`${place}/points`} closed={path.closed ?? false} />
      <PathFromFile place={place} />
      <FormControlLabel
        label="Closed: the last point leads to the first"
        control={
          <Switch
            size="small"
            checked={path.closed ?? false}
            onChange={(_, on) => set(`${place}/closed`, on)}
          />
        }
      />
      <Rows
        title="Points"
        place={`${place}/points`}
        columns={[
          { label: "x", unit, step: 1 },
          { label: "y", unit, step: 1 },
          { label: "z", unit, step: 1 },
        ]}
        least={path.closed ? 3 : 2}
        next={(rows) => following(rows)}
        note={(index) => {
          const found = bends[index];
          if (!found || found.bend === null || found.bend === undefined || !reach) return null;
          const tight = found.bend < reach * 1.05;
          return (
            <Typography
              variant="caption"
              color={tight ? "error" : "text.secondary"}
              sx={{ pl: 2.5, display: "block" }}
            >
              bends to {lengthText(found.bend, unit)}
              {found.keep != null && `; keep ${lengthText(found.keep, unit)} to either side`}
            </Typography>
          );
        }}
      />
    </>
  );
}

/** A point that goes on from the last two. */
function following(rows: readonly (number | string)[][]): number[] {
  const number = (value: number | string | undefined) => Number(value) || 0;
  const last = rows[rows.length - 1] ?? [0, 0, 0];
  const before = rows[rows.length - 2] ?? [0, 0, -10];
  return [0, 1, 2].map((k) => Number((2 * number(last[k]) - number(before[k])).toPrecision(6)));
}

function FormulaFields(props: {
  place: string;
  path: Extract<Path, { kind: "formula" }>;
  size: number;
}) {
  const { place, path, size } = props;
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const round = path.radius != null;
  const names = round ? (["radius", "angle", "height"] as const) : (["x", "y", "z"] as const);
  const far = Number((size / 2).toPrecision(2));
  const climb = Number((far / 20).toPrecision(2));
  const toWay = (way: "round" | "flat") => {
    const range = { from: path.from ?? 0, to: path.to ?? 1 };
    const fresh =
      way === "round"
        ? { radius: `${far}`, angle: "t", height: `${climb} * t` }
        : { x: `${far} * cos(t)`, y: `${far} * sin(t)`, z: `${climb} * t` };
    set(place, { kind: "formula", ...fresh, ...range });
  };
  return (
    <>
      <Choice
        label="Given by"
        value={round ? "round" : "flat"}
        options={[
          ["round", "radius, angle, height"],
          ["flat", "x, y, z"],
        ]}
        onChange={toWay}
      />
      {names.map((name) => (
        <ValueField
          key={name}
          label={name === "angle" ? "angle of t, in radians" : `${name} of t`}
          place={`${place}/${name}`}
          unit={name === "angle" ? "rad" : unit}
          text
        />
      ))}
      <Stack direction="row" spacing={1}>
        <ValueField label="t from" place={`${place}/from`} step={1} optional />
        <ValueField label="t to" place={`${place}/to`} step={1} optional />
      </Stack>
    </>
  );
}

/** Turns or pitch, one of them. */
function TurnsOrPitch({ place, pitchOf }: { place: string; pitchOf: string }) {
  const { unit, part } = usePartContext();
  const path = useRecipe((state) => at(state.recipe, place)) as {
    turns?: unknown;
    pitch?: unknown;
  };
  const set = useRecipe((state) => state.set);
  const byTurns = path.turns != null;
  const swap = (way: "turns" | "pitch") => {
    if ((way === "turns") === byTurns) return;
    const turns = part.report?.figures.turns ?? 20;
    set(`${place}/${byTurns ? "turns" : "pitch"}`, undefined);
    set(`${place}/${way}`, way === "turns" ? Number(digits(turns, 3)) || 20 : 5);
  };
  return (
    <Stack direction="row" spacing={1}>
      <Choice
        label="Spacing by"
        value={byTurns ? "turns" : "pitch"}
        options={[
          ["turns", "turns"],
          ["pitch", `pitch along ${pitchOf}`],
        ]}
        onChange={swap}
      />
      {byTurns ? (
        <ValueField label="Turns" place={`${place}/turns`} step={1} />
      ) : (
        <ValueField label="Pitch" place={`${place}/pitch`} unit={unit} />
      )}
    </Stack>
  );
}

function HandAndStart({ place, hand }: { place: string; hand: "right" | "left" | undefined }) {
  const set = useRecipe((state) => state.set);
  return (
    <Stack direction="row" spacing={1}>
      <Choice
        label="Hand"
        value={hand ?? "right"}
        options={HANDS}
        onChange={(v) => set(`${place}/hand`, v)}
      />
      <ValueField label="Start angle" place={`${place}/start_angle`} unit="°" step={5} optional />
    </Stack>
  );
}

function WindingFields(props: {
  place: string;
  path: Extract<Path, { kind: "winding" }>;
  size: number;
}) {
  const { place, path, size } = props;
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <>
      <TurnsOrPitch place={place} pitchOf="the core" />
      <Stack direction="row" spacing={1}>
        <ValueField label="Radius around the core" place={`${place}/radius`} unit={unit} />
        <ValueField label="Core wire, if shown" place={`${place}/core`} unit={unit} optional />
      </Stack>
      <HandAndStart place={place} hand={path.hand} />
      <Stack sx={{ borderLeft: 2, borderColor: "divider", pl: 1 }} spacing={1}>
        <PathFields place={`${place}/around`} label="Wound around" size={size * 2} />
        {path.around.kind !== "winding" && (
          <Button
            variant="text"
            onClick={() => set(`${place}/around`, { ...newPath("winding", size * 2) })}
          >
            Nest: wind around a winding
          </Button>
        )}
      </Stack>
    </>
  );
}

function WrapFields(props: { place: string; path: Extract<Path, { kind: "wrap" }>; size: number }) {
  const { place, path, size } = props;
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <>
      <TurnsOrPitch place={place} pitchOf={path.along === "axis" ? "the axis" : "the outline"} />
      <Stack direction="row" spacing={1}>
        <Choice
          label="Even along"
          value={path.along ?? "profile"}
          options={[
            ["profile", "the outline"],
            ["axis", "the axis"],
          ]}
          onChange={(v) => set(`${place}/along`, v)}
        />
        <ValueField label="Off the surface" place={`${place}/offset`} unit={unit} optional />
      </Stack>
      <HandAndStart place={place} hand={path.hand} />
      <ProfileFields place={place} ease={path.ease} size={size} />
    </>
  );
}

/** The outline of a turned body: points of radius and height, or a drawing. */
export function ProfileFields(props: {
  place: string;
  ease: "straight" | "smooth" | undefined;
  size: number;
}) {
  const { place, ease, size } = props;
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <>
      <Stack direction="row" spacing={1}>
        <Choice
          label="Outline of the body"
          value={ease ?? "straight"}
          options={EASES}
          onChange={(v) => set(`${place}/ease`, v)}
        />
        <ValueField label="Corner radius" place={`${place}/corner_radius`} unit={unit} optional />
      </Stack>
      <DrawingButton
        label="Read the outline from a DXF or SVG"
        onLoops={([loop]) => {
          const points = loop?.points.map((p) => (p.length === 6 ? p.slice(4) : p)) ?? [];
          if (points.length > 1)
            set(
              `${place}/profile`,
              points.map(([r, ...rest]) => [Math.abs(r ?? 0), ...rest]),
            );
        }}
      />
      <Rows
        title="Outline"
        place={`${place}/profile`}
        columns={[
          { label: "radius", unit },
          { label: "height", unit },
          { label: "bulge", unit: "", step: 0.05 },
        ]}
        least={2}
        next={(rows) => {
          const last = rows[rows.length - 1] ?? [size / 2, 0];
          return [Number(last[0]) || size / 2, Number(last[1]) + Number((size / 3).toPrecision(2))];
        }}
      />
    </>
  );
}

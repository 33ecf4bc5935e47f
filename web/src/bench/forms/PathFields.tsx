import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState, type ComponentType } from "react";
import { readCurve, type Recipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { digits, lengthText, MM } from "../../look/numbers";
import { Choice } from "../Choice";
import { useUnit, useWoundTold } from "../PartContext";
import { ValueField } from "../ValueField";
import { CoilFields } from "./CoilFields";
import { FileButton } from "./FileButton";
import { ChoiceField, KindButton, KindChoice, KindFields, SwitchField } from "./KindFields";
import { OutlineRows } from "./OutlineRows";
import { PlanView } from "./PlanView";
import { Rows } from "./Rows";

type Path = Recipe["path"];

interface EditorProps<K extends Path["kind"]> {
  place: string;
  path: Extract<Path, { kind: K }>;
  size: number;
}

interface Props {
  /** JSON pointer of the path. */
  place: string;
  label: string;
  /** About how large a new path is, in the recipe's unit. */
  size: number;
  /** Takes the new path in place of setting it. */
  onNew?: (fresh: object | undefined, kind: string) => void;
}

/** A path: its kind, its numbers, and what is drawn of some kinds. */
export function PathFields({ place, label, size, onNew }: Props) {
  const path = useRecipe((state) => at(state.recipe, place)) as Path;
  const Editor = EDITORS[path.kind];
  return (
    <Stack spacing={1.5}>
      <KindChoice label={label} place={place} size={size} {...(onNew && { onNew })} />
      {Editor ? <Editor place={place} path={path} size={size} /> : <KindFields place={place} />}
    </Stack>
  );
}

/** Points from a table, a drawing or a solid's edges, in the recipe's unit. */
function PathFromFile({ place }: { place: string }) {
  const unit = useUnit();
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

function PointsFields(props: EditorProps<"points">) {
  const { place, path } = props;
  const part = useWoundTold();
  const unit = useUnit();
  const bends = place === "/path" ? (part.report?.points ?? []) : [];
  const reach = part.report?.section.across?.[0]
    ?.map(([u, v]) => Math.hypot(u ?? 0, v ?? 0))
    .reduce((a, b) => Math.max(a, b), 0);
  return (
    <>
      <PlanView place={`${place}/points`} closed={path.closed ?? false} />
      <PathFromFile place={place} />
      <SwitchField place={`${place}/closed`} />
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
              {found.keep != null &&
                `; needs ${lengthText(found.keep, unit)} of straight on each side`}
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

function FormulaFields(props: EditorProps<"formula">) {
  const { place, path, size } = props;
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
          optional={false}
        />
      ))}
      <Stack direction="row" spacing={1}>
        <ValueField place={`${place}/from`} step={1} />
        <ValueField place={`${place}/to`} step={1} />
      </Stack>
    </>
  );
}

/** Turns or pitch, one of them. */
function TurnsOrPitch({ place, pitchOf }: { place: string; pitchOf: string }) {
  const part = useWoundTold();
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
        <ValueField place={`${place}/turns`} step={1} optional={false} />
      ) : (
        <ValueField place={`${place}/pitch`} optional={false} />
      )}
    </Stack>
  );
}

function WindingFields({ place, path, size }: EditorProps<"winding">) {
  const set = useRecipe((state) => state.set);
  return (
    <>
      <TurnsOrPitch place={place} pitchOf="the core" />
      <KindFields place={place} except={["turns", "pitch"]} />
      <Stack sx={{ borderLeft: 2, borderColor: "divider", pl: 1 }} spacing={1}>
        <PathFields place={`${place}/around`} label="Wound around" size={size * 2} />
        {path.around.kind !== path.kind && (
          <KindButton
            name="Winding"
            size={size * 2}
            onNew={(fresh) => set(`${place}/around`, fresh)}
          >
            Nest: wind around a winding
          </KindButton>
        )}
      </Stack>
    </>
  );
}

function WrapFields({ place, path, size }: EditorProps<"wrap">) {
  return (
    <>
      <TurnsOrPitch place={place} pitchOf={path.along === "axis" ? "the axis" : "the outline"} />
      <KindFields place={place} except={["turns", "pitch", "ease", "corner_radius"]} />
      <ProfileFields place={place} size={size} />
    </>
  );
}

/** The outline of a turned body: points of radius and height, or a drawing. */
export function ProfileFields({ place, size }: { place: string; size: number }) {
  return (
    <>
      <Stack direction="row" spacing={1}>
        <ChoiceField place={`${place}/ease`} />
        <ValueField place={`${place}/corner_radius`} />
      </Stack>
      <OutlineRows
        place={place}
        next={(rows) => {
          const last = rows[rows.length - 1] ?? [size / 2, 0];
          return [Number(last[0]) || size / 2, Number(last[1]) + Number((size / 3).toPrecision(2))];
        }}
      />
    </>
  );
}

/** What the paths are edited by that more than numbers make: a drawing, or one thing in place of another. */
const EDITORS = {
  coil: CoilFields,
  points: PointsFields,
  formula: FormulaFields,
  winding: WindingFields,
  wrap: WrapFields,
} as Record<string, ComponentType<{ place: string; path: Path; size: number }> | undefined>;

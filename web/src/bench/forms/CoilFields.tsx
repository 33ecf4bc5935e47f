import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import type { Recipe } from "../../api/client";
import { MM, threeDigits } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { useUnit, useWoundTold } from "../PartContext";
import { widthOf } from "../steps/sizes";
import { PitchTriangle } from "../PitchTriangle";
import { ValueField } from "../ValueField";
import { ChoiceField, KindChoice, KindFields } from "./KindFields";
import { ScheduleFields } from "./ScheduleFields";

type Coil = Extract<Recipe["path"], { kind: "coil" }>;

const SHAPES = [
  ["none", "a cylinder"],
  ["end", "a cone, by its end diameter"],
  ["cone", "a cone, by its half angle"],
  ["flat", "a flat spiral"],
  ["barrel", "a barrel"],
  ["hourglass", "an hourglass"],
  ["dome", "a dome"],
  ["horn", "a horn"],
  ["points", "a diameter by points"],
  ["formula", "a diameter by formula"],
] as const;
const PITCHES = [
  ["even", "even"],
  ["points", "by points"],
  ["formula", "by formula"],
] as const;

type Shape = (typeof SHAPES)[number][0];

interface Props {
  place: string;
  path: Coil;
}

/** A coil: its diameter, the shape it winds on, its rise, its base and its closed turns. */
export function CoilFields({ place, path }: Props) {
  const part = useWoundTold();
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  const varied = typeof path.diameter === "object";
  const shape = shapeOf(path);
  const pitch =
    typeof path.pitch === "object" ? (path.pitch?.formula ? "formula" : "points") : "even";
  const diameter = firstOf(path.diameter, part.report?.values[`${place}/diameter`], 20 / MM[unit]);
  const rise = firstOf(
    path.pitch,
    part.report?.values[`${place}/pitch`],
    threeDigits(diameter / 3),
  );
  const wire = (widthOf(part.report) ?? 1) / MM[unit];
  return (
    <>
      <Stack direction="row" spacing={1}>
        {!varied && <ValueField place={`${place}/diameter`} />}
        <ChoiceField place={`${place}/diameter_at`} />
      </Stack>
      <Stack direction="row" spacing={1}>
        <Choice
          label="Winds on"
          value={shape}
          options={SHAPES}
          onChange={(next) =>
            set(place, shaped(path, next, diameter, wire, part.report?.figures.turns))
          }
        />
        {path.end_diameter != null && (
          <ValueField place={`${place}/end_diameter`} optional={false} />
        )}
        {path.cone_angle != null && (
          <ValueField place={`${place}/cone_angle`} step={0.5} optional={false} />
        )}
      </Stack>
      {typeof path.diameter === "object" && path.diameter.shape && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Start" place={`${place}/diameter/from`} optional={false} />
          {path.diameter.middle != null && (
            <ValueField label="Middle" place={`${place}/diameter/middle`} optional={false} />
          )}
          <ValueField label="End" place={`${place}/diameter/to`} optional={false} />
        </Stack>
      )}
      {typeof path.diameter === "object" && !path.diameter.shape && (
        <ScheduleFields
          name="Diameter"
          place={`${place}/diameter`}
          unit={unit}
          ways={["points", "formula", "from"]}
          step={0.5}
          still={diameter}
          keep={["over"]}
        />
      )}
      {pitch === "even" ? (
        <PitchTriangle place={place} />
      ) : (
        <Stack direction="row" spacing={1}>
          {path.turns != null ? (
            <ValueField label="Turns" place={`${place}/turns`} step={0.5} />
          ) : (
            <ValueField label="Height" place={`${place}/height`} unit={unit} />
          )}
        </Stack>
      )}
      {path.closed == null && (
        <Choice
          label="Pitch"
          value={pitch}
          options={PITCHES}
          onChange={(next) => {
            const even = typeof path.pitch === "object" ? rise : (path.pitch ?? rise);
            const rest: Coil = { ...path };
            delete rest.height;
            rest.turns = path.turns ?? Math.round(part.report?.figures.turns ?? 6);
            if (next === "even") rest.pitch = even;
            else if (next === "points")
              rest.pitch = {
                points: [
                  [0, even],
                  [0.5, even],
                  [1, even],
                ],
                ease: "smooth",
              };
            else rest.pitch = { formula: `${even} + ${Number(even) / 4 || 1} * sin(2 * pi * t)` };
            set(place, rest);
          }}
        />
      )}
      {typeof path.pitch === "object" && path.pitch !== null && (
        <ScheduleFields
          name="Pitch"
          place={`${place}/pitch`}
          unit={unit}
          ways={["points", "formula", "from"]}
          step={0.1}
          still={rise}
          keep={["over"]}
        />
      )}
      <Stack direction="row" spacing={1}>
        <ChoiceField place={`${place}/hand`} />
        <ValueField place={`${place}/start_angle`} />
      </Stack>
      <KindChoice
        label="Base"
        place={`${place}/base`}
        size={diameter}
        without={["round", "round"]}
      />
      {path.base && <KindFields place={`${place}/base`} />}
      {pitch === "even" && (
        <FormControlLabel
          label="Closed end turns, wound to touch"
          control={
            <Switch
              size="small"
              checked={path.closed != null}
              onChange={(_, on) => set(`${place}/closed`, on ? { start: 1, end: 1 } : undefined)}
            />
          }
        />
      )}
      {path.closed && (
        <Stack direction="row" spacing={1}>
          <ValueField label="At the start" place={`${place}/closed/start`} step={0.25} optional />
          <ValueField label="At the end" place={`${place}/closed/end`} step={0.25} optional />
          <ValueField label="Change over" place={`${place}/closed/change`} step={0.25} optional />
        </Stack>
      )}
    </>
  );
}

/** What a diameter or a pitch is at the start, in typed units. */
function firstOf(given: Coil["diameter" | "pitch"], value: number | undefined, usual: number) {
  if (given !== null && typeof given === "object")
    return Number(given.from ?? given.points?.[0]?.[1]) || usual;
  return value ?? (Number(given) || usual);
}

function shapeOf(path: Coil): Shape {
  if (typeof path.diameter === "object") {
    if (path.diameter.shape) return path.diameter.shape;
    return path.diameter.formula ? "formula" : "points";
  }
  if (path.end_diameter != null) return path.height === 0 ? "flat" : "end";
  return path.cone_angle != null ? "cone" : "none";
}

/** The same coil on another shape, nothing of its rise lost that still has a meaning. */
function shaped(path: Coil, shape: Shape, d: number, wire: number, turnsNow?: number | null): Coil {
  const rest: Coil = { ...path, diameter: typeof path.diameter === "object" ? d : path.diameter };
  delete rest.end_diameter;
  delete rest.cone_angle;
  if (shape !== "flat" && path.height === 0) {
    delete rest.height;
    rest.pitch = threeDigits(d / 4);
  }
  switch (shape) {
    case "none":
      return rest;
    case "cone":
      return { ...rest, cone_angle: 10 };
    case "end":
      return { ...rest, end_diameter: threeDigits(d * 0.6) };
    case "flat": {
      delete rest.pitch;
      const turns = path.turns ?? Math.round(turnsNow ?? 8);
      return { ...rest, turns, height: 0, end_diameter: threeDigits(d + 3 * wire * Number(turns)) };
    }
    case "barrel":
      return {
        ...rest,
        diameter: { shape, from: threeDigits(d), middle: threeDigits(d * 1.5), to: threeDigits(d) },
      };
    case "hourglass":
      return {
        ...rest,
        diameter: { shape, from: threeDigits(d), middle: threeDigits(d * 0.6), to: threeDigits(d) },
      };
    case "dome":
      return { ...rest, diameter: { shape, from: threeDigits(d), to: threeDigits(d * 0.3) } };
    case "horn":
      return { ...rest, diameter: { shape, from: threeDigits(d), to: threeDigits(d * 2.5) } };
    case "points":
      return {
        ...rest,
        diameter: {
          points: [
            [0, threeDigits(d)],
            [0.5, threeDigits(d * 1.3)],
            [1, threeDigits(d)],
          ],
          ease: "smooth",
        },
      };
    case "formula":
      return {
        ...rest,
        diameter: { formula: `${threeDigits(d)} + ${threeDigits(d / 4)} * sin(pi * t)` },
      };
  }
}

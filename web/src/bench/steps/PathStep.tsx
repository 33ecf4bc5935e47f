import Stack from "@mui/material/Stack";
import type { Recipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { PitchTriangle } from "../PitchTriangle";
import { ValueField } from "../ValueField";

type Coil = Extract<Recipe["path"], { kind: "coil" }>;

const KINDS = [
  ["coil", "coil"],
  ["straight", "straight"],
] as const;
const HANDS = [
  ["right", "right"],
  ["left", "left"],
] as const;
const PLACES = [
  ["mean", "mean"],
  ["outside", "outside"],
  ["inside", "inside"],
] as const;
const TAPERS = [
  ["none", "none: a cylinder"],
  ["end", "to an end diameter"],
  ["cone", "by a cone angle"],
  ["flat", "flat spiral"],
] as const;

type Taper = (typeof TAPERS)[number][0];

/** The curve that the wire follows. */
export function PathStep() {
  const { recipe, unit, part } = usePartContext();
  const change = useRecipe((state) => state.change);
  const set = useRecipe((state) => state.set);
  const path = recipe.path;
  const toKind = (kind: "coil" | "straight") =>
    change((old) =>
      old.path.kind === kind
        ? old
        : kind === "straight"
          ? {
              ...old,
              path: {
                kind,
                length: Math.round((part.report?.figures.path_length ?? 100) * 10) / 10,
              },
              stance: { kind: "steady" },
              section: { ...old.section, plane: "across" },
            }
          : {
              ...old,
              path: { kind, diameter: 20, turns: 8, pitch: 6 },
              stance: { kind: "outward" },
            },
    );
  return (
    <Stack spacing={1.5}>
      <Choice label="Kind" value={path.kind} options={KINDS} onChange={toKind} />
      {path.kind === "straight" ? (
        <ValueField label="Length" place="/path/length" unit={unit} step={1} />
      ) : (
        <>
          <Stack direction="row" spacing={1}>
            <ValueField label="Diameter" place="/path/diameter" unit={unit} />
            <Choice
              label="Measured at"
              value={path.diameter_at ?? "mean"}
              options={PLACES}
              onChange={(v) => set("/path/diameter_at", v)}
            />
          </Stack>
          <Stack direction="row" spacing={1}>
            <Choice
              label="Taper"
              value={taperOf(path)}
              options={TAPERS}
              onChange={(taper) =>
                change((old) => ({ ...old, path: tapered(old.path as Coil, taper, old, part) }))
              }
            />
            {path.end_diameter != null && (
              <ValueField label="End diameter" place="/path/end_diameter" unit={unit} />
            )}
            {path.cone_angle != null && (
              <ValueField label="Half angle" place="/path/cone_angle" unit="°" step={0.5} />
            )}
          </Stack>
          <PitchTriangle />
          <Stack direction="row" spacing={1}>
            <Choice
              label="Hand"
              value={path.hand ?? "right"}
              options={HANDS}
              onChange={(v) => set("/path/hand", v)}
            />
            <ValueField label="Start angle" place="/path/start_angle" unit="°" step={5} optional />
          </Stack>
        </>
      )}
    </Stack>
  );
}

function taperOf(path: Coil): Taper {
  if (path.end_diameter != null) return path.height === 0 ? "flat" : "end";
  return path.cone_angle != null ? "cone" : "none";
}

/** The coil with another taper, keeping as much of it as the new one allows. */
function tapered(
  path: Coil,
  taper: Taper,
  recipe: Recipe,
  part: ReturnType<typeof usePartContext>["part"],
): Coil {
  const rest: Coil = { ...path };
  delete rest.end_diameter;
  delete rest.cone_angle;
  const figures = part.report?.figures;
  if (taper !== "flat" && path.height === 0) {
    delete rest.height;
    rest.pitch = Number(part.report?.values["/path/diameter"] ?? 20) / 4;
  }
  if (taper === "none") return rest;
  if (taper === "cone") return { ...rest, cone_angle: 10 };
  const diameter = part.report?.values["/path/diameter"] ?? 20;
  if (taper === "end") return { ...rest, end_diameter: Math.round(diameter * 0.6 * 100) / 100 };
  delete rest.pitch;
  const turns = path.turns ?? Math.round(figures?.turns ?? 8);
  const box = part.report?.section.across.map(([u]) => u ?? 0) ?? [0];
  const wire = (Math.max(...box) - Math.min(...box)) / MM[recipe.unit ?? "mm"];
  const end = Math.round((diameter + 3 * wire * Number(turns)) * 100) / 100;
  return { ...rest, turns, height: 0, end_diameter: end };
}

import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import Typography from "@mui/material/Typography";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { newPath } from "../forms/kinds";
import { PathFields } from "../forms/PathFields";
import { Group, SectionFields } from "../forms/SectionFields";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

const HANDS = [
  ["right", "right"],
  ["left", "left"],
] as const;

/** Strands laid around the path, the starts of a coil, and further wires such as an inner coil. */
export function WiresStep() {
  const { recipe, unit, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const strands = recipe.strands;
  const wires = recipe.wires ?? [];
  const figures = part.report?.figures;
  const wire = Math.sqrt(((figures?.section_area ?? 4) * 4) / Math.PI) / MM[unit];
  const inside = (figures?.inside_diameter ?? 20) / MM[unit];
  const layOf = () => Number((8 * wire).toPrecision(2));
  const coil = recipe.path.kind === "coil";
  const kind = !strands ? "one" : strands.lay == null ? "starts" : "rope";
  return (
    <Stack spacing={1.5}>
      <Choice
        label="This wire is"
        value={kind}
        options={[
          ["one", "one wire"],
          ["rope", "strands laid around the path"],
          ...(coil ? ([["starts", "the starts of a coil"]] as const) : []),
        ]}
        onChange={(next) =>
          set(
            "/strands",
            next === "one"
              ? undefined
              : { count: strands?.count ?? 3, ...(next === "rope" && { lay: layOf() }) },
          )
        }
      />
      {strands && (
        <Stack direction="row" spacing={1}>
          <ValueField label="How many" place="/strands/count" step={1} />
          {strands.lay != null && (
            <ValueField label="Lay length" place="/strands/lay" unit={unit} />
          )}
          {strands.lay != null && (
            <ValueField label="Radius" place="/strands/radius" unit={unit} optional />
          )}
        </Stack>
      )}
      {strands && strands.lay != null && (
        <Stack direction="row" spacing={1}>
          <Choice
            label="Lay"
            value={strands.hand ?? "right"}
            options={HANDS}
            onChange={(v) => set("/strands/hand", v)}
          />
          <FormControlLabel
            label="One in the middle"
            sx={{ width: "100%" }}
            control={
              <Switch
                size="small"
                checked={strands.core ?? false}
                onChange={(_, on) => set("/strands/core", on)}
              />
            }
          />
        </Stack>
      )}
      {wires.map((_, index) => (
        <Group
          key={index}
          title={`Further wire ${index + 1}`}
          onRemove={() =>
            set(
              "/wires",
              wires.filter((__, i) => i !== index),
            )
          }
        >
          <PathFields place={`/wires/${index}/path`} label="Its path" size={inside * 0.7} />
          <SectionFields place={`/wires/${index}/section`} label="Its section" size={wire * 0.7} />
        </Group>
      ))}
      <Button
        variant="text"
        onClick={() =>
          set("/wires", [
            ...wires,
            {
              name: wires.length ? `wire ${wires.length + 2}` : "inner coil",
              path:
                recipe.path.kind === "coil" && typeof recipe.path.diameter !== "object"
                  ? {
                      ...recipe.path,
                      diameter: Number((inside * 0.7).toPrecision(3)),
                      diameter_at: "mean",
                      hand: recipe.path.hand === "left" ? "right" : "left",
                    }
                  : newPath("coil", inside * 0.7),
              section: { kind: "round", diameter: Number((wire * 0.6).toPrecision(2)) },
            },
          ])
        }
      >
        Add a further wire, such as an inner coil
      </Button>
      {part.report && part.report.bodies.length > 1 && (
        <Typography variant="body2" color="text.secondary">
          {part.report.bodies.length} bodies: {part.report.bodies.slice(0, 8).join(", ")}
          {part.report.bodies.length > 8 && " …"}. Each becomes a solid of its own.
        </Typography>
      )}
    </Stack>
  );
}

import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { usual, type Recipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { ChoiceField, KindTrouble, SwitchField } from "../forms/KindFields";
import { PathFields } from "../forms/PathFields";
import { Group, SectionFields } from "../forms/SectionFields";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

type Rise = Pick<Extract<Recipe["path"], { kind: "coil" }>, "turns" | "pitch" | "height">;

/** Strands laid around the path, the starts of a coil, and further wires such as an inner coil. */
export function WiresStep() {
  const { recipe, unit, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const strands = recipe.strands;
  const wires = recipe.wires ?? [];
  const figures = part.report?.figures;
  const wire = Math.sqrt(((figures?.section_area ?? 4) * 4) / Math.PI) / MM[unit];
  const inside = (figures?.inside_diameter ?? 20) / MM[unit];
  const [trouble, setTrouble] = useState(false);
  const layOf = () => Number((8 * wire).toPrecision(2));
  const coil = recipe.path.kind === "coil";
  const kind = !strands ? "one" : strands.lay == null ? "starts" : "rope";
  const addWire = async () => {
    const around = inside * 0.7;
    const found = await Promise.all([
      usual<Recipe["path"]>("Coil", around),
      usual<Recipe["section"]>("Round", wire * 0.6),
    ]).catch(() => null);
    setTrouble(!found);
    if (!found) return;
    const [coil, section] = found;
    const own = recipe.path.kind === "coil" && typeof recipe.path.diameter !== "object";
    const hand = "hand" in recipe.path && recipe.path.hand === "left" ? "right" : "left";
    const beside = { ...coil, diameter_at: "mean", hand } as Recipe["path"];
    const { turns, pitch, height } = recipe.path as Rise;
    const name = wires.length ? `wire ${wires.length + 2}` : "inner coil";
    const path = own ? { ...recipe.path, ...beside, turns, pitch, height } : coil;
    set("/wires", [...wires, { name, path, section }]);
  };
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
          <ValueField place="/strands/count" />
          {strands.lay != null && <ValueField place="/strands/lay" optional={false} />}
          {strands.lay != null && <ValueField place="/strands/radius" />}
        </Stack>
      )}
      {strands && strands.lay != null && (
        <Stack direction="row" spacing={1}>
          <ChoiceField place="/strands/hand" label="Lay" />
          <SwitchField place="/strands/core" />
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
      <Button variant="text" onClick={() => void addWire()}>
        Add a further wire, such as an inner coil
      </Button>
      {trouble && <KindTrouble />}
      {part.report && part.report.bodies.length > 1 && (
        <Typography variant="body2" color="text.secondary">
          {part.report.bodies.length} bodies: {part.report.bodies.slice(0, 8).join(", ")}
          {part.report.bodies.length > 8 && " …"}. Each becomes a solid of its own.
        </Typography>
      )}
    </Stack>
  );
}

import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import { choicesOf, fieldOf } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import type { AnyRecipe } from "../../api/client";
import { Choice } from "../Choice";
import { useBench, useUnit } from "../PartContext";
import { ValueField } from "../ValueField";

/** What the part is made of: a material that is known or one of one's own, and its finish. */
export function Material() {
  const { recipe } = useBench();
  const set = useRecipe((state) => state.set);
  const material = recipe.material ?? "spring-steel";
  const own = typeof material === "string" ? null : material;
  return (
    <Stack spacing={1.5}>
      <Choice
        label="Material"
        value={own ? "own" : (material as string)}
        options={[...choicesOf(fieldOf("Recipe", "material")), ["own", "one of my own"]]}
        onChange={(name) =>
          set(
            "/material",
            name === "own" ? { name: "My own", density: 7.85, colour: "#9a9791" } : name,
          )
        }
      />
      {own && (
        <>
          <Stack direction="row" spacing={1}>
            <TextField
              label="Its name"
              value={own.name}
              onChange={(event) => event.target.value && set("/material/name", event.target.value)}
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
            <ColourField label="Its colour" place="/material/colour" value={own.colour} />
          </Stack>
          <PlainNumber label="Density, g/cm³" place="/material/density" value={own.density} />
          <Stack direction="row" spacing={1}>
            <PlainNumber label="Modulus, MPa" place="/material/modulus" value={own.modulus} />
            <PlainNumber label="Flow stress, MPa" place="/material/flow" value={own.flow} />
          </Stack>
        </>
      )}
      <Finish finish={recipe.finish} />
    </Stack>
  );
}

function Finish({ finish }: { finish: AnyRecipe["finish"] }) {
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  const kind = fieldOf("Finish", "kind");
  const coat = finish && kind["x-coats"]?.[finish.kind];
  return (
    <>
      <Choice
        label="Finish"
        value={finish?.kind ?? "none"}
        options={[["none", "as it is"], ...choicesOf(kind)]}
        onChange={(one) => set("/finish", one === "none" ? undefined : { kind: one })}
      />
      {coat && (
        <Stack direction="row" spacing={1}>
          {coat.colour && (
            <ColourField
              label="Colour"
              place="/finish/colour"
              value={finish.colour ?? coat.colour}
            />
          )}
          <ValueField label="Thickness" place="/finish/thickness" unit={unit} optional />
        </Stack>
      )}
    </>
  );
}

function ColourField(props: { label: string; place: string; value: string | undefined }) {
  const set = useRecipe((state) => state.set);
  return (
    <TextField
      label={props.label}
      type="color"
      value={props.value ?? "#9a9791"}
      onChange={(event) => set(props.place, event.target.value)}
      sx={{ minWidth: 96 }}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}

/** A number that is no formula; left empty it is not given. */
function PlainNumber(props: { label: string; place: string; value: number | null | undefined }) {
  const { label, place, value } = props;
  const set = useRecipe((state) => state.set);
  return (
    <TextField
      key={place}
      label={label}
      defaultValue={value ?? ""}
      fullWidth
      onChange={(event) => {
        const typed = Number(event.target.value.replace(",", "."));
        if (event.target.value.trim() === "") {
          if (place !== "/material/density") set(place, undefined);
        } else if (typed > 0) set(place, typed);
      }}
      slotProps={{ htmlInput: { style: { textAlign: "right" } } }}
    />
  );
}

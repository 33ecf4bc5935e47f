import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { ChoiceField, KindFields } from "../forms/KindFields";
import { MadeFiles } from "../steps/MadeFiles";
import { useThreadContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { OwnLimits } from "./OwnLimits";
import { PrintedFits } from "./PrintedFits";

export function MateStep() {
  const { recipe, part, unit } = useThreadContext();
  const set = useRecipe((state) => state.set);
  const size = (part.report?.figures.major_diameter ?? 20) / MM[unit];
  return (
    <Stack spacing={1.5}>
      <ChoiceField label="Built at" place="/thread/size" />
      <ValueField
        label="Opened for printing or casting by"
        place="/thread/allowance"
        unit={unit}
        step={0.01}
        optional
      />
      {recipe.ladder ? (
        <>
          <KindFields place="/ladder" />
          <MadeFiles what="Fit ladder" />
          <Button variant="text" onClick={() => set("/ladder", undefined)}>
            Leave the ladder out
          </Button>
        </>
      ) : (
        <Button variant="text" onClick={() => set("/ladder", {})}>
          Find that out by a fit ladder
        </Button>
      )}
      <PrintedFits />
      <OwnLimits />
      {!recipe.mate && (
        <Button
          variant="outlined"
          onClick={() => set("/mate", { length: Number((0.8 * size).toPrecision(2)) })}
        >
          Build its mate beside it
        </Button>
      )}
      {recipe.mate && (
        <>
          <Stack direction="row" spacing={1}>
            <ValueField label="Length of the mate" place="/mate/length" unit={unit} />
            <ValueField label="It stands at" place="/mate/at" unit={unit} optional />
          </Stack>
          <ChoiceField label="The mate is built at" place="/mate/size" />
          {recipe.host.kind === "rod" && (
            <Stack direction="row" spacing={1}>
              <ValueField label="Outside, round" place="/mate/outside" unit={unit} optional />
              <ValueField label="Across flats" place="/mate/across_flats" unit={unit} optional />
            </Stack>
          )}
          <Button variant="text" onClick={() => set("/mate", undefined)}>
            Leave the mate out
          </Button>
        </>
      )}
    </Stack>
  );
}

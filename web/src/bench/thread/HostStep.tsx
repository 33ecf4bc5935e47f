import Stack from "@mui/material/Stack";
import { type ThreadRecipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { ChoiceField, KindChoice, KindFields } from "../forms/KindFields";
import { OutlineRows } from "../forms/OutlineRows";
import { UnitChoice } from "../forms/UnitChoice";
import { useThreadContext } from "../PartContext";
import { Variables } from "../steps/Variables";
import { after } from "./after";

export function HostStep() {
  const { recipe, part, unit } = useThreadContext();
  const change = useRecipe((state) => state.change);
  const size = (part.report?.figures.major_diameter ?? 20) / MM[unit];
  const { host } = recipe;
  return (
    <Stack spacing={1.5}>
      <UnitChoice />
      <KindChoice
        label="On or in"
        place="/host"
        size={size}
        onNew={(host) =>
          change<ThreadRecipe>((old) => {
            const turned = !("length" in host!) || "end_diameter" in host!;
            const as = turned && (old.use?.as ?? "body") === "body" ? "groove" : old.use?.as;
            return { ...old, host: host as ThreadRecipe["host"], ...(as && { use: { as } }) };
          })
        }
      />
      <ChoiceField place="/use/as" />
      <KindFields place="/host" />
      {"profile" in host && <OutlineRows place="/host" next={after} />}
      <Variables />
    </Stack>
  );
}

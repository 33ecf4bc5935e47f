import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { FiguresTable } from "../../look/FiguresTable";
import { MadeFiles } from "../steps/MadeFiles";
import { ownFields } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { KindFields } from "../forms/KindFields";
import { ForceDiagram } from "./ForceDiagram";
import { LifeDiagram } from "./LifeDiagram";
import { WireChoice } from "./WireChoice";
import { MeasuredPanel } from "./MeasuredPanel";
import { NoLoad } from "./NoLoad";
import { Points } from "./Points";
import { Limits } from "./Limits";
import { Beams } from "./Beams";
import { BesideStandard } from "./BesideStandard";
import { ExactPanel } from "./ExactPanel";
import { ScatterPanel } from "./ScatterPanel";
import { isSolvedExactly } from "./solved";

/** The fields that stand with its life. */
const LIFE = ["speed", "peened", "grade"];

/** The kinds that work along their axis. */
const AXIAL = ["compression", "extension"];

/** The kinds whose sums a model stands beside. */
const COMPARED = ["compression", "spiral"];

/** What the spring is wound of, where it works and for how long; how near it is to each limit. */
export function LoadStep() {
  const { recipe, part, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const spring = part.report?.spring;
  if (!recipe.spring) return <NoLoad />;
  return (
    <Stack spacing={1.5}>
      <WireChoice asked={recipe.spring} />
      <KindFields place="/spring" except={["points", "made", ...LIFE]} />
      <Points asked={recipe.spring} spring={spring ?? null} />
      {spring && <ForceDiagram spring={spring} />}
      {spring && <BesideStandard spring={spring} />}
      {spring && AXIAL.includes(spring.kind) && <MeasuredPanel spring={spring} />}
      {spring && <Limits spring={spring} />}
      <Stack direction="row" spacing={1}>
        <ValueField place="/spring/cycles" step={100000} />
        <ValueField place="/spring/temperature" step={5} />
      </Stack>
      <Stack direction="row" spacing={1}>
        <ValueField place="/spring/relaxation" optional />
        <ValueField place="/spring/strength_left" optional />
      </Stack>
      <KindFields
        place="/spring"
        except={ownFields(recipe, "/spring")
          .map(({ key }) => key)
          .filter((key) => !LIFE.includes(key))}
      />
      {spring?.life && <LifeDiagram life={spring.life} />}
      {spring && <MadeFiles what="Data sheet" />}
      {spring && COMPARED.includes(spring.kind) && !recipe.wires?.length && (
        <Beams spring={spring} />
      )}
      {spring && isSolvedExactly(recipe) && <ExactPanel />}
      {spring?.scatters && <ScatterPanel />}
      {spring && (
        <FiguresTable label="Figures of the spring" figures={spring.figures} unit={unit} />
      )}
      <Button variant="text" onClick={() => set("/spring", undefined)}>
        Leave the load out
      </Button>
    </Stack>
  );
}

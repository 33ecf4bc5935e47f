import Stack from "@mui/material/Stack";
import { typedLength } from "../../look/numbers";
import { KindChoice, KindFields } from "../forms/KindFields";
import { useThreadContext } from "../PartContext";
import { ValueField } from "../ValueField";

export function RunStep() {
  return (
    <Stack spacing={1.5}>
      <Stack direction="row" spacing={1}>
        <ValueField label="Begins at" place="/thread/at" />
        <ValueField label="Length, or to the end" place="/thread/length" />
      </Stack>
      <EndFields end="start" />
      <EndFields end="end" />
    </Stack>
  );
}

function EndFields({ end }: { end: "start" | "end" }) {
  const { recipe, part, unit } = useThreadContext();
  const place = `/thread/${end}`;
  return (
    <Stack spacing={1}>
      <KindChoice
        label={end === "start" ? "The start is" : "The end is"}
        place={place}
        size={typedLength(part.report?.figures.pitch ?? 2, unit, 3)}
        without={["usual", "chamfer at a face, else a run-out"]}
      />
      {recipe.thread[end] && <KindFields place={place} />}
    </Stack>
  );
}

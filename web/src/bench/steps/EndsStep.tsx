import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { lengthText, typedLength } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { KindChoice, KindFields } from "../forms/KindFields";
import { LegsFields } from "../forms/LegsFields";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

const SPANS = [
  ["whole", "the whole path"],
  ["share", "by shares, 0 to 1"],
  ["turns", "by turns"],
  ["length", "by true length"],
] as const;

/** The part of the path that is used, how it ends, and the legs beyond. */
export function EndsStep() {
  const { recipe, part, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const span = recipe.path.span;
  const strip = part.report?.strip;
  const last = (strip?.s.length ?? 1) - 1;
  const place = (i: number) =>
    [strip!.x[i]!, strip!.y[i]!, strip!.z[i]!].map((c) => lengthText(c, unit)).join(", ");
  return (
    <Stack spacing={1.5}>
      <Choice
        label="Span"
        value={span?.by ?? (span ? "share" : "whole")}
        options={SPANS}
        onChange={(by) =>
          set(
            "/path/span",
            by === "whole" ? undefined : { by, from: 0, ...(by === "share" && { to: 1 }) },
          )
        }
      />
      {span && (
        <Stack direction="row" spacing={1}>
          <ValueField place="/path/span/from" />
          <ValueField label="To, or the end" place="/path/span/to" optional />
        </Stack>
      )}
      <EndFields end="start" />
      <EndFields end="end" />
      <LegsFields end="start" />
      <LegsFields end="end" />
      {strip && (
        <Typography variant="body2" color="text.secondary">
          {lengthText(strip.s[last]!, unit)} of path, from {place(0)} to {place(last)}.
        </Typography>
      )}
    </Stack>
  );
}

function EndFields({ end }: { end: "start" | "end" }) {
  const { recipe, part, unit } = usePartContext();
  const place = `/ends/${end}`;
  const bare = recipe.use?.as === "skin" ? "open" : "flat";
  return (
    <Stack direction="row" spacing={1}>
      <KindChoice
        label={end === "start" ? "The start is" : "The end is"}
        place={place}
        size={typedLength((part.report?.figures.outside_diameter ?? 20) / 4, unit, 2)}
        without={[bare, bare]}
      />
      {recipe.ends?.[end] && <KindFields place={place} />}
    </Stack>
  );
}

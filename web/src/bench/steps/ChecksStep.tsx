import Button from "@mui/material/Button";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { isThreaded, type Check } from "../../api/client";
import { digits, lengthText } from "../../look/numbers";
import { VerdictLabel } from "../../look/Verdict";
import { useDesk } from "../../state/bench";
import { useBench, useUnit } from "../PartContext";
import { Slice } from "../Slice";
import { RemedyButton } from "../Trouble";

/** Every check with its figure, explanation, places and remedies; the worst first. */
export function ChecksStep() {
  const { part, recipe } = useBench();
  if (!part.report) return <Typography variant="body2">Not checked yet.</Typography>;
  const order = { stop: 0, watch: 1, clear: 2 };
  const checks = [...part.report.checks].sort((a, b) => order[a.verdict] - order[b.verdict]);
  return (
    <Stack component="ul" spacing={1.25} sx={{ listStyle: "none", p: 0, m: 0 }}>
      {checks.map((check) => (
        <CheckItem key={check.id} check={check} />
      ))}
      {!part.report.searched && (
        <Typography component="li" variant="body2" color="text.secondary">
          The search for remedies did not come to its end. There may be more: change a number, and
          it is checked at once.
        </Typography>
      )}
      {!isThreaded(recipe) && (
        <li>
          <Slice />
        </li>
      )}
    </Stack>
  );
}

function CheckItem({ check }: { check: Check }) {
  const unit = useUnit();
  const setCursor = useDesk((state) => state.setCursor);
  const value =
    check.value === null
      ? ""
      : check.unit === "mm"
        ? lengthText(check.value, unit)
        : `${digits(check.value)} ${check.unit}`;
  return (
    <Box component="li">
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h3">
          {check.title}
        </Typography>
        <Typography variant="body2" component="span">
          {value} &nbsp;
          <VerdictLabel verdict={check.verdict} />
        </Typography>
      </Stack>
      <Typography variant="body2" color="text.secondary">
        {check.why}.
      </Typography>
      {check.verdict !== "clear" && check.where.length > 0 && (
        <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", gap: 0.5, mt: 0.5 }}>
          {check.where.slice(0, 4).map(([from, to]) => (
            <Button
              key={from}
              variant="text"
              onClick={() => setCursor(((from ?? 0) + (to ?? 0)) / 2)}
              aria-label={`Show the place from ${lengthText(from ?? 0, unit)} to ${lengthText(to ?? 0, unit)}`}
              sx={{ py: 0, minHeight: 24 }}
            >
              {lengthText(from ?? 0, unit)} – {lengthText(to ?? 0, unit)}
            </Button>
          ))}
          {check.where.length > 4 && (
            <Typography variant="caption" sx={{ alignSelf: "center" }}>
              and {check.where.length - 4} more places
            </Typography>
          )}
        </Stack>
      )}
      {check.remedies.length > 0 && (
        <Stack useFlexGap sx={{ gap: 0.5, mt: 0.5 }}>
          {check.remedies.map((remedy) => (
            <Stack key={remedy.input} sx={{ alignItems: "flex-start" }}>
              <RemedyButton input={remedy.input} value={remedy.value} text={remedy.text} />
              <Typography variant="caption" color="text.secondary">
                {remedy.cost}
              </Typography>
            </Stack>
          ))}
        </Stack>
      )}
    </Box>
  );
}

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import type { Check } from "../api/client";
import { useLook } from "../look/Look";
import { VerdictMark } from "../look/Verdict";
import { useRecipe } from "../state/bench";
import { usePartContext } from "./PartContext";

interface RemedyProps {
  input: string;
  value: number | string;
  text?: string;
  primary?: boolean;
}

/** One press puts the value that works in its place. */
export function RemedyButton({ input, value, text, primary = false }: RemedyProps) {
  const set = useRecipe((state) => state.set);
  return (
    <Button
      variant={primary ? "contained" : "outlined"}
      onClick={() => set(input, value)}
      data-remedy={input}
      sx={{ py: 0.1, whiteSpace: "nowrap" }}
    >
      Take {text || `${input.split("/").slice(1).join(" ")} ${value}`}
    </Button>
  );
}

/** The gravest trouble of the moment, over the part that is still shown, with what cures it. */
export function Trouble() {
  const { part } = usePartContext();
  const { colours } = useLook();
  const problem = part.problems[0];
  if (part.offline) {
    return (
      <Alert severity="warning" icon={false} role="alert">
        The server does not answer. Your edits are kept here and saved when it does.
      </Alert>
    );
  }
  if (problem) {
    return (
      <Alert severity="error" icon={<VerdictMark verdict="unusable" size={16} />} role="alert">
        <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: "wrap", alignItems: "center" }}>
          <span>
            <strong>
              {problem.place.split("/").slice(1).join(" › ").replaceAll("_", " ") || "Recipe"}
            </strong>
            : {problem.reason}; {problem.remedy}. The last good part stays.
          </span>
          {problem.fix && (
            <RemedyButton input={problem.fix.input} value={problem.fix.value} primary />
          )}
        </Stack>
      </Alert>
    );
  }
  const check = worst(part.report?.checks ?? []);
  if (!check) return null;
  return (
    <Alert
      severity={check.verdict === "stop" ? "error" : "warning"}
      icon={<VerdictMark verdict={check.verdict} size={16} />}
      role="status"
      sx={{
        bgcolor: colours.sheet,
        color: colours.ink,
        border: `1px solid ${colours[check.verdict]}`,
      }}
    >
      <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: "wrap", alignItems: "center" }}>
        <span>
          <strong>{check.title}</strong>: {check.why}.
        </span>
        {check.remedies.slice(0, 2).map((remedy, index) => (
          <RemedyButton key={remedy.input} {...remedy} primary={index === 0} />
        ))}
      </Stack>
    </Alert>
  );
}

function worst(checks: Check[]): Check | undefined {
  return (
    checks.find((check) => check.verdict === "stop") ??
    checks.find((check) => check.verdict === "watch")
  );
}

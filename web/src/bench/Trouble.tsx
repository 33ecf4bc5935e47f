import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { useState, type ReactNode } from "react";
import type { Check, Remedy } from "../api/client";
import { useLook } from "../look/Look";
import { colourOf, VerdictMark, type VerdictWord } from "../look/Verdict";
import { placeWords } from "../schema/schema";
import { useRecipe } from "../state/bench";
import { useBench } from "./PartContext";

interface RemedyProps {
  input: string;
  value: Remedy["value"];
  text?: string;
  cost?: string;
  primary?: boolean;
}

/** One press puts the value that works in its place. */
export function RemedyButton({ input, value, text, cost, primary = false }: RemedyProps) {
  const set = useRecipe((state) => state.set);
  const recipe = useRecipe((state) => state.recipe);
  return (
    <Button
      variant={primary ? "contained" : "outlined"}
      onClick={() => set(input, value)}
      data-remedy={input}
      title={cost}
      sx={{ py: 0.1, whiteSpace: "nowrap" }}
    >
      Take {text || `${placeWords(recipe ?? {}, input).toLowerCase()} ${said(value)}`}
    </Button>
  );
}

function said(value: Remedy["value"]): string {
  return typeof value === "object" ? Object.values(value).join(" ") : String(value);
}

/** The gravest trouble of the moment, over the part that is still shown, with what cures it. */
export function Trouble() {
  const { part, recipe } = useBench();
  const problem = part.problems[0];
  if (part.offline) {
    return (
      <Notice verdict="watch">
        The server does not answer. Your edits are kept here and saved when it does.
      </Notice>
    );
  }
  if (problem) {
    const place = placeWords(recipe, problem.place);
    return (
      <Notice verdict="unusable">
        <span>
          <strong>{place || "Recipe"}</strong>: {problem.reason}; {problem.remedy}. The last good
          part stays.
        </span>
        {problem.fix && (
          <RemedyButton input={problem.fix.input} value={problem.fix.value} primary />
        )}
      </Notice>
    );
  }
  const check = worst(part.report?.checks ?? []);
  if (!check) return null;
  return (
    <Notice verdict={check.verdict}>
      <span>
        <strong>{check.title}</strong>: {check.why}.
      </span>
      {check.remedies.slice(0, 2).map((remedy, index) => (
        <RemedyButton key={remedy.input} {...remedy} primary={index === 0} />
      ))}
    </Notice>
  );
}

function Notice({ verdict, children }: { verdict: VerdictWord; children: ReactNode }) {
  const { colours } = useLook();
  const [folded, setFolded] = useState(false);
  const border = colourOf(verdict, colours);
  return (
    <Alert
      icon={<VerdictMark verdict={verdict} size={16} />}
      role={verdict === "unusable" ? "alert" : "status"}
      sx={{
        bgcolor: colours.sheet,
        color: colours.ink,
        border: `1px solid ${border}`,
        py: 0.25,
        "& .MuiAlert-message": { minWidth: 0, flex: 1 },
      }}
      action={
        <Button variant="text" aria-expanded={!folded} onClick={() => setFolded((old) => !old)}>
          {folded ? "Unfold" : "Fold"}
        </Button>
      }
    >
      <Stack
        direction="row"
        useFlexGap
        sx={{
          gap: 1,
          alignItems: "center",
          ...(folded
            ? { "& > span": { overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" } }
            : { flexWrap: "wrap" }),
        }}
      >
        {children}
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

import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { answer, client, type AnyRecipe } from "../../api/client";
import { MM } from "../../look/numbers";
import { FiguresTable } from "../../look/FiguresTable";
import { VerdictMark } from "../../look/Verdict";
import { keysOf } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { apart, expectation } from "../expected";
import { useBench, useTold, useUnit } from "../PartContext";
import { RemedyButton } from "../Trouble";
import { ValueField } from "../ValueField";
import { Material } from "./Material";
import { capital } from "../../look/words";

type Expectable = keyof NonNullable<AnyRecipe["expected"]>;

const EXPECTABLE = keysOf("Expected") as Expectable[];

/** The material, and what the part is expected to weigh and measure. */
export function WeighStep() {
  const { recipe, part, unit } = useBench();
  const set = useRecipe((state) => state.set);
  const titled = (name: Expectable) =>
    [name, (part.report?.why[name]?.title ?? name.replaceAll("_", " ")).toLowerCase()] as const;
  const asked = EXPECTABLE.filter((name) => recipe.expected?.[name]).map(titled);
  const left = EXPECTABLE.filter(
    (name) => !recipe.expected?.[name] && typeof part.report?.figures[name] === "number",
  ).map(titled);
  const expect = (name: Expectable) => {
    const of = { g: 0, "mm³": 3 }[part.report?.why[name]?.unit ?? ""] ?? 1;
    const now = (part.report?.figures[name] ?? 0) / MM[unit] ** of;
    set(`/expected/${name}`, { value: Number(now.toPrecision(4)) });
  };
  return (
    <Stack spacing={1.5}>
      <Material />
      {asked.map(([name, title]) => (
        <ExpectedRow key={name} name={name} title={title} />
      ))}
      {left.length > 0 && (
        <Choice
          label="Expect a value of"
          value={"" as Expectable | ""}
          options={[["", "choose a figure"], ...left]}
          onChange={(name) => name && expect(name)}
        />
      )}
      <Spread />
      {asked.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          Type what a part in your hand weighs or measures. The difference stays in sight, and what
          would explain it is looked for.
        </Typography>
      )}
    </Stack>
  );
}

/** Mass, surface, box, centre of mass and inertia of the latest recipe that can be used. */
function Spread() {
  const part = useTold();
  const unit = useUnit();
  const recipe = useDeferredValue(part.reported);
  const { data: found } = useQuery({
    queryKey: ["weigh", recipe],
    enabled: Boolean(recipe),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 10_000,
    queryFn: () => answer(client.POST("/api/parts/weigh", { body: recipe! })),
  });
  if (!found) return null;
  return <FiguresTable label="How it is spread" figures={found.figures} unit={unit} />;
}

function ExpectedRow({ name, title }: { name: Expectable; title: string }) {
  const part = useTold();
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  const check = expectation(part.report, name);
  const its = name === "mass" ? "g" : name === "volume" ? `${unit}³` : unit;
  return (
    <Box component="section" aria-label={`Expected ${title}`}>
      <Stack direction="row" spacing={0.5} sx={{ alignItems: "center" }}>
        <ValueField
          label={capital(title)}
          name={`Expected ${title}`}
          place={`/expected/${name}/value`}
          unit={its}
        />
        <Box sx={{ width: 124, flex: "none" }}>
          <ValueField
            label="within"
            name={`Tolerance of the ${title}`}
            place={`/expected/${name}/tolerance`}
            unit={its}
            optional
          />
        </Box>
        <button
          type="button"
          className="plain-action"
          onClick={() => set(`/expected/${name}`, undefined)}
          aria-label={`Expect no ${title}`}
          title="Remove"
        >
          ✕
        </button>
      </Stack>
      {check && (
        <Stack direction="row" spacing={0.75} sx={{ alignItems: "center", mt: 0.25 }}>
          <VerdictMark verdict={check.verdict} />
          <Typography variant="body2">
            {apart(check, unit)}
            {check.remedies.length > 0 && "; this would explain it:"}
          </Typography>
        </Stack>
      )}
      {check && check.remedies.length > 0 && (
        <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", gap: 0.5, mt: 0.5 }}>
          {check.remedies.map((remedy) => (
            <RemedyButton
              key={`${remedy.input} ${remedy.text}`}
              input={remedy.input}
              value={remedy.value}
              text={remedy.text}
            />
          ))}
        </Stack>
      )}
    </Box>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { answer, client, type AnyRecipe, type Design, type Survey } from "../api/client";
import { fileOf, useLongWork } from "../api/jobs";
import { BesideBench, DesignPage } from "../beside/BesideBench";
import { JobStatus } from "../beside/JobStatus";
import { useInputs } from "../beside/useInputs";
import { Choice } from "../bench/Choice";
import { isSolvedExactly } from "../bench/spring/solved";
import { digits, type LengthUnit } from "../look/numbers";
import { Curve } from "./Curve";
import { Picked } from "./Picked";
import { RangeFields, usualRange, type Range } from "./RangeFields";
import { columnsOf, NO_COLUMN, pointAt } from "./found";
import { VerdictMap } from "./VerdictMap";

/** One or two inputs of a design over a range, with what becomes of its figures and checks. */
export function SurveyPage() {
  return <DesignPage>{(design) => <SurveyOf key={design.revision} design={design} />}</DesignPage>;
}

function SurveyOf({ design }: { design: Design }) {
  const recipe = design.recipe as unknown as AnyRecipe;
  const unit = (recipe.unit ?? "mm") as LengthUnit;
  const [ranges, setRanges] = useState<Range[] | null>(null);
  const [shown, setShown] = useState("");
  const [second, setSecond] = useState("");
  const [exact, setExact] = useState(false);
  const [picked, setPicked] = useState<number | null>(null);
  const { data: inputs, error: unusable } = useInputs(design);
  const asked = ranges ?? (inputs ? usualRange(inputs) : []);
  const work = useLongWork("survey", () =>
    answer(
      client.POST("/api/jobs", {
        body: {
          kind: "survey",
          recipe: recipe as unknown as Record<string, never>,
          over: asked,
          exact,
        },
      }),
    ),
  );
  const { job: survey, running } = work;
  const known = survey?.found ?? null;
  const columns = known ? columnsOf(known) : [];
  const done = survey?.state === "done";
  const found = done || columns.length ? known : null;
  const column = columns.find((one) => one.key === shown) ?? columns[0] ?? NO_COLUMN;
  const beside = columns.find((one) => one.key === second && one !== column) ?? null;
  return (
    <BesideBench
      design={design}
      title="Survey of"
      left={
        <>
          {inputs && <RangeFields inputs={inputs} ranges={asked} onChange={setRanges} />}
          {isSolvedExactly(recipe) && (
            <FormControlLabel
              control={
                <Switch size="small" checked={exact} onChange={(_, next) => setExact(next)} />
              }
              label="with exact elasticity, slower"
            />
          )}
          <Button
            variant={found && picked !== null ? "outlined" : "contained"}
            disabled={running || asked.length === 0}
            onClick={() => {
              setPicked(null);
              work.start();
            }}
          >
            Try them all
          </Button>
          <JobStatus what="survey" work={work} trouble={unusable?.message} />
          {found && (
            <>
              <Choice
                label="Show"
                value={column.key}
                options={columns.map((one) => [one.key, one.title] as const)}
                onChange={setShown}
              />
              {found.inputs.length === 1 && (
                <Choice
                  label="On the other axis"
                  value={beside?.key ?? ""}
                  options={[
                    ["", "nothing"],
                    ...columns
                      .filter((one) => one !== column)
                      .map((one) => [one.key, one.title] as const),
                  ]}
                  onChange={setSecond}
                />
              )}
              {done && (
                <Button variant="outlined" href={fileOf(survey, "csv")} download>
                  Table as CSV
                </Button>
              )}
            </>
          )}
        </>
      }
      right={
        found &&
        (picked === null ? (
          <Typography variant="body2" color="text.secondary">
            Choose a point to see all its figures, and to take its values. {counted(found, done)}
          </Typography>
        ) : (
          <Picked design={design} found={found} point={picked} unit={unit} />
        ))
      }
    >
      <Box sx={{ minWidth: 0, p: 2, display: "flex", flexDirection: "column" }}>
        {!found && <Empty />}
        {found && found.inputs.length === 1 && (
          <Curve
            found={found}
            column={column}
            beside={beside}
            unit={unit}
            picked={picked}
            onPick={setPicked}
          />
        )}
        {found && found.inputs.length === 2 && (
          <VerdictMap
            found={found}
            column={column}
            unit={unit}
            picked={picked}
            onPick={setPicked}
          />
        )}
      </Box>
    </BesideBench>
  );
}

function Empty() {
  return (
    <Box sx={{ m: "auto", maxWidth: 420 }}>
      <Typography variant="h2" gutterBottom>
        What becomes of the part?
      </Typography>
      <Typography>
        Choose an input and how far it goes. Each value is tried on the whole part, with every
        figure and every check; one input gives a curve, two give a map of clear, watch and stop.
      </Typography>
    </Box>
  );
}

function counted(found: NonNullable<Survey["found"]>, done: boolean): string {
  const clear = found.verdicts.filter((verdict) => verdict === "clear").length;
  const first = found.verdicts.indexOf("clear");
  const of = `${found.verdicts.length} points${done ? "" : " so far"}`;
  if (first < 0) return `None of the ${of} is clear.`;
  const at = pointAt(found, first).map((value) => digits(value, 6));
  return `${clear} of ${of} are clear, the first at ${at.join(", ")}.`;
}

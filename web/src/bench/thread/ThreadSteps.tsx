import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answer, client, type ThreadRecipe } from "../../api/client";
import { MM, typedLength } from "../../look/numbers";
import { kindsAt } from "../../schema/schema";
import { useDesk, useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { weighSentence } from "../expected";
import { ChoiceField, KindChoice, KindFields, KindTrouble, useKind } from "../forms/KindFields";
import { Rows } from "../forms/Rows";
import { useThreadContext } from "../PartContext";
import { checksSentence } from "../sentences";
import { StepList, type StepRow } from "../Steps";
import { ChecksStep } from "../steps/ChecksStep";
import { SolidStep } from "../steps/SolidStep";
import { Variables } from "../steps/Variables";
import { WeighStep } from "../steps/WeighStep";
import { ValueField } from "../ValueField";
import { SavedForms } from "./SavedForms";
import { GaugingTable, SizesTable } from "./SizesTable";

type Form = NonNullable<ThreadRecipe["thread"]["form"]>;

/** The steps of a threaded part in the order of the work. */
export function ThreadSteps() {
  const { recipe, part } = useThreadContext();
  const solid = useDesk((state) => state.solid);
  const { words } = part;
  const steps: StepRow[] = [
    {
      id: "thread",
      title: "Thread",
      sentence: words.thread ?? "",
      body: <ThreadStep />,
      places: ["/thread/designation", "/thread/form", "/thread/diameter", "/thread/pitch"],
    },
    {
      id: "host",
      title: "Host",
      sentence: words.host ?? "",
      body: <HostStep />,
      places: ["/host", "/use", "/unit", "/thread/side"],
    },
    {
      id: "ends",
      title: "Where it runs, and ends",
      sentence: words.ends ?? "",
      body: <RunStep />,
      places: ["/thread/at", "/thread/length", "/thread/start", "/thread/end"],
    },
    {
      id: "mate",
      title: "Size and mate",
      sentence: words.mate ?? "",
      body: <MateStep />,
      places: ["/mate", "/thread/size", "/thread/allowance"],
    },
    {
      id: "gauging",
      title: "Sizes and gauging",
      sentence: part.report?.thread.standard?.sources.limits ?? "",
      body: <GaugingStep />,
      places: [],
    },
    {
      id: "checks",
      title: "Checks",
      sentence: checksSentence(part.report),
      body: <ChecksStep />,
      verdict: part.report?.verdict,
      places: [],
    },
    {
      id: "weigh",
      title: "Weigh",
      sentence: weighSentence(recipe, part.report),
      body: <WeighStep />,
      places: ["/material", "/expected"],
    },
    {
      id: "solid",
      title: "Solid",
      sentence: solid ?? "not built yet",
      body: <SolidStep />,
      places: [],
    },
  ];
  return <StepList steps={steps} />;
}

/** A row that goes on as the last two rows do. */
function after(rows: readonly (number | string)[][]): (number | string)[] {
  const [before, last] = [rows.at(-2) ?? [0, 0], rows.at(-1) ?? [1, 1]];
  return last.map((value, k) => Number((2 * Number(value) - Number(before[k])).toPrecision(6)));
}

function ThreadStep() {
  const { recipe, part, unit } = useThreadContext();
  const change = useRecipe((state) => state.change);
  const set = useRecipe((state) => state.set);
  const own = !recipe.thread.designation;
  const formKind = recipe.thread.form?.kind ?? "flanks";
  const standard = part.report?.thread.standard;
  const pitch = recipe.thread.pitch ?? typedLength(standard?.pitch ?? 3, unit, 6);
  const put = (form: object | undefined) =>
    change<ThreadRecipe>((old) => {
      const rest = { ...old.thread };
      for (const key of ["designation", "form", "diameter", "pitch", "starts"] as const)
        delete rest[key];
      if (!form) return { ...old, thread: { designation: "M10", ...rest } };
      const diameter =
        old.thread.diameter ?? typedLength(standard?.external.major.basic ?? 20, unit, 6);
      return { ...old, thread: { ...rest, diameter, pitch, form: form as Form } };
    });
  const now = own ? formKind : "standard";
  const { kind, take, trouble } = useKind("/thread/form", Number(pitch), now, put, "standard");
  return (
    <Stack spacing={1.5}>
      <Choice
        label="Its form is"
        value={kind}
        options={[["standard", "a standard's"], ...kindsAt(recipe, "/thread/form")]}
        onChange={(next) => void take(next)}
      />
      {trouble && <KindTrouble />}
      {!own && <Designation />}
      <Stack direction="row" spacing={1}>
        <ValueField label={own ? "Starts" : "Starts, if others"} place="/thread/starts" />
        <Choice
          label="Hand"
          value={recipe.thread.hand ?? "named"}
          options={[
            ["named", own ? "right" : "as named"],
            ["right", "right hand"],
            ["left", "left hand"],
          ]}
          onChange={(hand) => set("/thread/hand", hand === "named" ? undefined : hand)}
        />
      </Stack>
      {own && (
        <>
          <Stack direction="row" spacing={1}>
            <ValueField label="Major diameter" place="/thread/diameter" optional={false} />
            <ValueField place="/thread/pitch" optional={false} />
          </Stack>
          <KindFields place="/thread/form" />
          {formKind === "points" && (
            <Rows
              title="Points"
              place="/thread/form/points"
              least={3}
              next={after}
              columns={[
                { label: "z", unit },
                { label: "r", unit },
              ]}
            />
          )}
          <SavedForms />
        </>
      )}
    </Stack>
  );
}

/** The designation, with the nearest ones offered as it is typed. */
function Designation() {
  const { recipe, part } = useThreadContext();
  const set = useRecipe((state) => state.set);
  const typed = recipe.thread.designation ?? "";
  const problem = part.problems.find((p) => p.place === "/thread/designation");
  const [text, setText] = useState(typed);
  const wanted = useDeferredValue(text);
  const { data } = useQuery({
    queryKey: ["threads", wanted],
    queryFn: () =>
      answer(client.GET("/api/threads/nearest", { params: { query: { text: wanted } } })),
    placeholderData: (old) => old,
  });
  return (
    <Autocomplete
      freeSolo
      options={(data ?? []).map((row) => row.designation)}
      filterOptions={(options) => options}
      inputValue={typed}
      onInputChange={(_, next, reason) => {
        setText(next);
        if (reason !== "reset" || next) set("/thread/designation", next || "M");
      }}
      renderInput={(params) => (
        <TextField
          {...params}
          label="Designation"
          error={Boolean(problem)}
          helperText={
            problem
              ? `${problem.reason}; ${problem.remedy}`
              : "as you write it: M10x1.25-6g, 1/4-20 UNC, G 1/2, Tr 40x7 LH"
          }
        />
      )}
    />
  );
}

function HostStep() {
  const { recipe, part, unit } = useThreadContext();
  const change = useRecipe((state) => state.change);
  const size = (part.report?.figures.major_diameter ?? 20) / MM[unit];
  const { host } = recipe;
  return (
    <Stack spacing={1.5}>
      <ChoiceField place="/unit" />
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
      {"profile" in host && (
        <Rows
          title="Outline"
          place="/host/profile"
          least={2}
          next={after}
          columns={[
            { label: "radius", unit },
            { label: "height", unit },
          ]}
        />
      )}
      <Variables />
    </Stack>
  );
}

function RunStep() {
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
        without={["usual", "as usual"]}
      />
      {recipe.thread[end] && <KindFields place={place} />}
    </Stack>
  );
}

function MateStep() {
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

const DIAMETERS = ["major", "pitch", "minor"] as const;
const MEMBERS = ["external", "internal"] as const;

/** Limits that the user types: those of a form of his own, or in place of a standard's. */
function OwnLimits() {
  const { recipe, part, unit } = useThreadContext();
  const set = useRecipe((state) => state.set);
  if (!recipe.thread.limits) {
    const sizes = part.report?.thread.standard;
    const deviation = (limit?: number | null, basic?: number | null) =>
      limit == null || basic == null ? 0 : typedLength(limit - basic, unit, 6);
    return (
      <Button
        variant="outlined"
        onClick={() =>
          set(
            "/thread/limits",
            Object.fromEntries(
              MEMBERS.map((member) => [
                member,
                Object.fromEntries(
                  DIAMETERS.map((name) => {
                    const size = sizes?.[member][name];
                    return [
                      name,
                      {
                        upper: deviation(size?.max, size?.basic),
                        lower: deviation(size?.min, size?.basic),
                      },
                    ];
                  }),
                ),
              ]),
            ),
          )
        }
      >
        Set limits of its own
      </Button>
    );
  }
  return (
    <Stack spacing={1}>
      {MEMBERS.map((member) =>
        DIAMETERS.map((name) => (
          <Stack key={member + name} direction="row" spacing={1}>
            {(["upper", "lower"] as const).map((end) => (
              <ValueField
                key={end}
                label={`${member}, ${name}, ${end}`}
                place={`/thread/limits/${member}/${name}/${end}`}
                unit={unit}
                step={0.01}
                optional
              />
            ))}
          </Stack>
        )),
      )}
      <Button variant="text" onClick={() => set("/thread/limits", undefined)}>
        Leave its own limits out
      </Button>
    </Stack>
  );
}

function GaugingStep() {
  const standard = useThreadContext().part.report?.thread.standard;
  if (!standard) return null;
  return (
    <Stack spacing={1.5}>
      <SizesTable standard={standard} />
      <GaugingTable standard={standard} />
    </Stack>
  );
}

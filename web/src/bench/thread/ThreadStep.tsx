import Autocomplete from "@mui/material/Autocomplete";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answer, client, type ThreadRecipe } from "../../api/client";
import { typedLength } from "../../look/numbers";
import { kindsAt } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { KindFields, KindTrouble, useKind } from "../forms/KindFields";
import { Rows } from "../forms/Rows";
import { useThreadContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { SavedForms } from "./SavedForms";
import { after } from "./after";

type Form = NonNullable<ThreadRecipe["thread"]["form"]>;

export function ThreadStep() {
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

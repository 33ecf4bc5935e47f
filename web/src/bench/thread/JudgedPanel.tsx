import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Standard } from "../../api/client";
import { DataTable } from "../../look/DataTable";
import { MM } from "../../look/numbers";
import { VerdictMark } from "../../look/Verdict";
import { Choice } from "../Choice";
import { useThreadContext } from "../PartContext";
import { readingsOf, type Typed } from "./readings";

type Side = "external" | "internal";

const NOTHING: Typed = {};

/** A made thread as it was measured, against the limits of its class. */
export function JudgedPanel({ standard, side: built }: { standard: Standard; side: Side }) {
  const { recipe } = useThreadContext();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState(NOTHING);
  const [side, setSide] = useState<Side>(standard.side ?? built);
  const inch = Boolean(standard.inch);
  const unit = inch ? "in" : "mm";
  const readings = readingsOf(typed, MM[unit]);
  const given = Object.keys(readings).some((key) => !key.endsWith("errors") && key !== "wire");
  const { data, error } = useQuery({
    queryKey: ["judged", recipe, side, readings],
    enabled: open && given,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      answer(
        client.POST("/api/threads/judged", {
          body: { recipe, side, readings },
        }),
      ),
  });
  const field = (key: keyof Typed, label: string, its: string = unit) => (
    <TextField
      label={`${label}, ${its}`}
      value={typed[key] ?? ""}
      onChange={(event) => setTyped((old) => ({ ...old, [key]: event.target.value }))}
      fullWidth
      slotProps={{ htmlInput: { inputMode: "decimal", style: { textAlign: "right" } } }}
    />
  );
  const shown = (value: number | null) =>
    value === null ? "–" : (value / MM[unit]).toFixed(inch ? 4 : 3);
  return (
    <Stack component="section" aria-label="A made one" spacing={1}>
      <Button variant="outlined" aria-expanded={open} onClick={() => setOpen(!open)}>
        Judge a made one
      </Button>
      {open && (
        <>
          {standard.side === null && (
            <Choice
              label="It is"
              value={side}
              options={[
                ["external", "an external thread"],
                ["internal", "an internal thread"],
              ]}
              onChange={setSide}
            />
          )}
          <Stack direction="row" spacing={1}>
            {field("crest", side === "external" ? "Major diameter" : "Minor diameter")}
            {field("depth", "Tooth depth")}
          </Stack>
          <Stack direction="row" spacing={1}>
            {field("pitch_diameter", "Pitch diameter")}
          </Stack>
          {side === "external" && (
            <Stack direction="row" spacing={1}>
              {field("over", "Over wires")}
              {field("wire", "Wires of")}
            </Stack>
          )}
          <Stack direction="row" spacing={1}>
            {field("pitch_error", "Pitch off")}
            {field("leading_error", "Flanks off", "°")}
            {field("trailing_error", "and", "°")}
          </Stack>
          {given && error && (
            <Typography variant="body2" role="alert">
              {error.message}.
            </Typography>
          )}
          {given && !error && data && (
            <DataTable
              label="Measured against its class"
              heads={[unit, "measured", "least", "most"]}
              strong={1}
              rows={data.measured.map((one) => ({
                key: one.key,
                cells: [
                  <>
                    <VerdictMark verdict={one.within ? "clear" : "stop"} size={9} /> {one.title}
                    {one.within ? ": within" : `: ${shown(one.off)} beyond`}
                  </>,
                  shown(one.value),
                  shown(one.least),
                  shown(one.most),
                ],
              }))}
            />
          )}
          <Typography variant="caption" color="text.secondary">
            What a perfect mate feels is larger, of a nut smaller, by what pitch and flanks are off
            (common metrology of 60° threads, not checked against a printed page). A pitch diameter
            over wires counts before one that is typed.
          </Typography>
        </>
      )}
    </Stack>
  );
}

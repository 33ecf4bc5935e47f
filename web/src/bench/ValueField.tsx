import InputAdornment from "@mui/material/InputAdornment";
import TextField from "@mui/material/TextField";
import { useEffect, useRef, useState } from "react";
import { digits, typedValue } from "../look/numbers";
import { useShallow } from "zustand/react/shallow";
import { at } from "../state/pointer";
import { useRecipe } from "../state/bench";
import { specAt } from "../schema/schema";
import { stepOf, unitOf } from "../schema/units";
import { useTold, useUnit } from "./PartContext";

interface Props {
  /** JSON pointer of the field in the recipe. */
  place: string;
  /** Its title in the schema where it is left out; so are its unit, its step and whether it may be empty. */
  label?: string;
  unit?: string;
  optional?: boolean;
  /** The step of the arrow keys and of the drag, in typed units. */
  step?: number;
  /** The field holds a formula and stays a text. */
  text?: boolean;
  /** What a reader hears, where the label alone does not tell which one it is. */
  name?: string;
  /** Small, for tables. */
  dense?: boolean;
}

const DENSE = { padding: "5px 4px", fontSize: "0.82rem" } as const;

/**
 * A number or a formula. Every keystroke goes to the part; arrow keys and dragging the unit sideways step
 * a plain number; a formula shows what it comes to, and a fault shows where it is.
 */
export function ValueField(props: Props) {
  const { place } = props;
  const value = useRecipe((state) => at(state.recipe, place)) as number | string | undefined;
  const set = useRecipe((state) => state.set);
  const part = useTold();
  const length = useUnit();
  const field = useRecipe(useShallow((state) => specAt(state.recipe ?? {}, place)));
  const {
    label = field.title,
    unit = unitOf(field, length),
    optional = field.optional,
    step = stepOf(field),
    text: isText = Boolean(field["x-formula"]),
  } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const drag = useRef<{ x: number; start: number } | null>(null);
  const text = draft ?? (value === undefined ? "" : String(value));
  useEffect(() => {
    const kept = draft === null || isText ? draft : typedValue(draft);
    if (draft !== null && value !== undefined && kept !== value) setDraft(null);
  }, [value, draft, isText]);

  const problem = part.problems.find((p) => p.place === place);
  const comesTo = part.report?.values[place];
  const formula = typeof value === "string" && comesTo !== undefined && !problem;
  const helper = problem
    ? `${problem.reason}; ${problem.remedy}`
    : formula
      ? `= ${digits(comesTo, 7)} ${unit}`
      : undefined;

  const put = (next: string) => {
    setDraft(next);
    const kept = isText ? next : typedValue(next);
    set(place, next.trim() === "" && optional ? undefined : kept);
  };
  const nudge = (start: number, steps: number) => {
    const next = Number((start + steps * step).toFixed(6));
    setDraft(null);
    set(place, next);
  };

  return (
    <TextField
      label={label}
      value={text}
      fullWidth
      error={Boolean(problem)}
      helperText={helper}
      onChange={(event) => put(event.target.value)}
      onBlur={() => setDraft(null)}
      onKeyDown={(event) => {
        const direction = { ArrowUp: 1, ArrowDown: -1 }[event.key];
        if (direction === undefined || typeof value !== "number") return;
        event.preventDefault();
        nudge(value, direction * (event.shiftKey ? 10 : 1));
      }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: {
          inputMode: "text",
          placeholder: optional && field.default != null ? String(field.default) : undefined,
          style: { textAlign: isText ? "left" : "right", ...(props.dense && DENSE) },
          "data-place": place,
          "aria-label": props.name,
        },
        formHelperText: { sx: { mx: 0.5, textAlign: "right" } },
        input: {
          endAdornment: (
            <InputAdornment
              position="end"
              sx={{
                minWidth: props.dense ? 0 : 26,
                ml: props.dense ? 0.25 : 1,
                cursor: typeof value === "number" ? "ew-resize" : "default",
                touchAction: "none",
                userSelect: "none",
              }}
              onPointerDown={(event) => {
                if (typeof value !== "number") return;
                event.preventDefault();
                event.currentTarget.setPointerCapture(event.pointerId);
                drag.current = { x: event.clientX, start: value };
              }}
              onPointerMove={(event) => {
                if (!drag.current) return;
                nudge(drag.current.start, Math.round((event.clientX - drag.current.x) / 4));
              }}
              onPointerUp={() => (drag.current = null)}
            >
              {props.dense ? "" : isText ? unit : unit || "↔"}
            </InputAdornment>
          ),
        },
      }}
    />
  );
}

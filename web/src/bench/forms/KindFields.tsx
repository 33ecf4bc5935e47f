import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import Typography from "@mui/material/Typography";
import { useRef, useState, type ReactNode } from "react";
import { usual } from "../../api/client";
import { choicesOf, kindName, kindsAt, ownFields, specAt, type Field } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { Choice } from "../Choice";
import { ValueField } from "../ValueField";

interface KindProps {
  /** JSON pointer of what is of one of several kinds. */
  place: string;
  label: string;
  /** About how large a new one is, in the recipe's unit. */
  size: number;
  /** What it is where nothing stands there, as an option of its own or one of the kinds. */
  without?: readonly [word: string, title: string];
  /** Takes the new one in place of the one that is there; undefined where there is to be none. */
  onNew?: (fresh: object | undefined, kind: string) => void;
}

/** The kind that is chosen at a place where `now` stands, shown at once while a usual one of it is fetched, and what to do to
 * change it; `none` is the word that nothing stands there. */
export function useKind(
  place: string,
  size: number,
  now: string,
  put: (fresh: object | undefined, kind: string) => void,
  none?: string,
) {
  const recipe = useRecipe((state) => state.recipe)!;
  const [coming, setComing] = useState<string | null>(null);
  const [trouble, setTrouble] = useState(false);
  const asked = useRef(0);
  const take = async (next: string) => {
    const turn = ++asked.current;
    const here = next === now || next === none;
    setComing(here ? null : next);
    setTrouble(false);
    if (next !== now && next === none) put(undefined, next);
    if (here) return;
    const fresh = await usual(kindName(recipe, place, next), size).catch(() => null);
    if (turn !== asked.current) return;
    setComing(null);
    setTrouble(!fresh);
    if (fresh) put(fresh, next);
  };
  return { kind: coming ?? now, take, trouble };
}

/** Said where a kind could not be had. */
export function KindTrouble() {
  return (
    <Typography variant="caption" color="error" role="alert">
      The server did not answer; choose again.
    </Typography>
  );
}

interface ButtonProps {
  /** Under which name the schema has the kind. */
  name: string;
  size: number;
  onNew: (fresh: object) => void;
  variant?: "text" | "outlined" | "contained";
  children: ReactNode;
}

/** A button that hands over a new one of a kind. */
export function KindButton({ name, size, onNew, variant = "text", children }: ButtonProps) {
  const [trouble, setTrouble] = useState(false);
  const make = async () => {
    const fresh = await usual(name, size).catch(() => null);
    setTrouble(!fresh);
    if (fresh) onNew(fresh);
  };
  return (
    <>
      <Button variant={variant} onClick={() => void make()}>
        {children}
      </Button>
      {trouble && <KindTrouble />}
    </>
  );
}

/** The kind of something, chosen among all that the schema has there. */
export function KindChoice({ place, label, size, without, onNew }: KindProps) {
  const recipe = useRecipe((state) => state.recipe)!;
  const set = useRecipe((state) => state.set);
  const put = onNew ?? ((fresh: object | undefined) => set(place, fresh));
  const kinds = kindsAt(recipe, place);
  const known = without && kinds.some(([one]) => one === without[0]);
  const none = known ? undefined : without?.[0];
  const now = (at(recipe, place) as { kind: string } | undefined)?.kind ?? without?.[0] ?? "";
  const { kind, take, trouble } = useKind(place, size, now, put, none);
  const options = without && !known ? [without, ...kinds] : kinds;
  return (
    <Stack sx={{ width: "100%" }}>
      <Choice label={label} value={kind} options={options} onChange={(next) => void take(next)} />
      {trouble && <KindTrouble />}
    </Stack>
  );
}

/** A choice of a few words, as the schema has them. */
export function ChoiceField({ place, label }: { place: string; label?: string }) {
  const recipe = useRecipe((state) => state.recipe)!;
  const set = useRecipe((state) => state.set);
  const field = specAt(recipe, place);
  const typed = at(recipe, place) ?? field.default ?? "";
  return (
    <Choice
      label={label ?? field.title ?? ""}
      value={String(typed)}
      options={choicesOf(field)}
      onChange={(next) =>
        set(
          place,
          field.enum!.find((one) => String(one) === next),
        )
      }
    />
  );
}

/** Yes or no. */
export function SwitchField({ place }: { place: string }) {
  const recipe = useRecipe((state) => state.recipe)!;
  const set = useRecipe((state) => state.set);
  const field = specAt(recipe, place);
  return (
    <FormControlLabel
      label={field.title}
      sx={{ width: "100%" }}
      control={
        <Switch
          size="small"
          checked={Boolean(at(recipe, place) ?? field.default)}
          onChange={(_, on) => set(place, on || undefined)}
        />
      }
    />
  );
}

function fieldFor(field: Field, place: string): ReactNode {
  if (field["x-quantity"] || field["x-formula"])
    return <ValueField key={field.key} place={place} />;
  if (field.enum) return <ChoiceField key={field.key} place={place} />;
  if (field.type === "boolean") return <SwitchField key={field.key} place={place} />;
  return null;
}

interface FieldsProps {
  /** JSON pointer of something of one of several kinds. */
  place: string;
  /** The fields that an editor of their own has. */
  except?: readonly string[];
}

/** The longest words of a choice that half a row holds. */
const MOST_LETTERS = 18;

/** The fields that a kind has of its own, two in a row: all but lists and what is made of further kinds. */
export function KindFields({ place, except = [] }: FieldsProps) {
  const recipe = useRecipe((state) => state.recipe)!;
  const rows: ReactNode[][] = [];
  let open = false;
  for (const field of ownFields(recipe, place)) {
    const shown = !except.includes(field.key) && fieldFor(field, `${place}/${field.key}`);
    if (!shown) continue;
    const wide = choicesOf(field).some(([, words]) => words.length > MOST_LETTERS);
    if (open && !wide) rows.at(-1)!.push(shown);
    else rows.push([shown]);
    open = !open && !wide;
  }
  return rows.map((row, index) => (
    <Stack key={index} direction="row" spacing={1}>
      {row}
    </Stack>
  ));
}

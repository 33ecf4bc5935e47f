import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import { isThreaded, type AnyRecipe } from "../../api/client";
import { useSession } from "../../api/session";
import { fieldOf } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { useBench } from "../PartContext";

type Block = NonNullable<AnyRecipe["title_block"]>;

const ROWS: readonly (keyof Block)[][] = [
  ["owner"],
  ["number", "revision"],
  ["creator", "approver"],
  ["tolerances"],
  ["licence"],
];

/** What drawings, sheets and files say of the part beside its name. */
export function TitleStep() {
  const { recipe } = useBench();
  const { workshop } = useSession();
  const set = useRecipe((state) => state.set);
  const block: Block = recipe.title_block ?? {};
  const change = (key: keyof Block, words: string) => {
    const next = { ...block, [key]: words };
    const told = Object.entries(next).filter(([, value]) => value);
    set("/title_block", told.length === 0 ? undefined : Object.fromEntries(told));
  };
  return (
    <Stack spacing={1.5}>
      {ROWS.map((row) => (
        <Stack key={row.join()} direction="row" spacing={1}>
          {row.map((key) => {
            const field = fieldOf("TitleBlock", key);
            return (
              <TextField
                key={key}
                label={field.title}
                fullWidth
                value={block[key] ?? ""}
                onChange={(event) => change(key, event.target.value)}
                placeholder={workshop[key]}
                slotProps={{
                  htmlInput: { maxLength: field.maxLength },
                  inputLabel: workshop[key] ? { shrink: true } : {},
                }}
              />
            );
          })}
        </Stack>
      ))}
      {isThreaded(recipe) && (
        <Choice
          label="Drawings show the thread"
          value={recipe.thread.drawn ?? "by convention"}
          options={[
            ["by convention", "by convention (ISO 6410-1)"],
            ["helix", "with its helix"],
          ]}
          onChange={(drawn) => set("/thread/drawn", drawn === "helix" ? drawn : undefined)}
        />
      )}
    </Stack>
  );
}

/** What of it is filled in. */
export function titleSentence(recipe: AnyRecipe): string {
  const block = recipe.title_block ?? {};
  const revision = block.revision ? `revision ${block.revision}` : "";
  return [block.number, revision, block.owner].filter(Boolean).join(", ") || "not filled in";
}

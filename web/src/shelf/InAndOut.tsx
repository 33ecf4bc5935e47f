import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { bringShelfIn, type TakenIn } from "../api/client";
import { Gone } from "./Gone";
import { designFromFile } from "./recipeFile";

/** Recipes and whole shelves, in; the whole shelf, out. */
export function InAndOut({ onChanged }: { onChanged: () => void }) {
  const [looking, setLooking] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const bring = useMutation({ mutationFn: broughtIn, onSettled: onChanged });
  return (
    <>
      <Stack
        direction="row"
        spacing={1}
        sx={{ mt: 3, pt: 1.5, borderTop: 1, borderColor: "divider" }}
      >
        <Button
          variant="outlined"
          onClick={() => chooser.current?.click()}
          disabled={bring.isPending}
        >
          Bring recipes or a shelf in
        </Button>
        <Button variant="outlined" href="/api/shelf/archive" download>
          Keep the whole shelf as a file
        </Button>
        <Button variant="outlined" onClick={() => setLooking(true)}>
          Off the shelf
        </Button>
        <input
          ref={chooser}
          type="file"
          hidden
          multiple
          accept=".json,.zip"
          aria-label="Recipes or a shelf"
          onChange={(event) => {
            bring.mutate([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </Stack>
      {looking && <Gone onClose={() => setLooking(false)} onChanged={onChanged} />}
      {bring.data && (
        <Alert
          severity="info"
          icon={false}
          sx={{ mt: 1.5, bgcolor: "background.paper", color: "text.primary" }}
          onClose={() => bring.reset()}
        >
          {bring.data}
        </Alert>
      )}
      {bring.error && (
        <Alert severity="error" icon={false} sx={{ mt: 1.5 }} onClose={() => bring.reset()}>
          {bring.error.message}
        </Alert>
      )}
    </>
  );
}

async function broughtIn(files: File[]): Promise<string> {
  const told: string[] = [];
  for (const file of files) {
    try {
      told.push(
        file.name.endsWith(".zip") ? inWords(await bringShelfIn(file)) : await recipeIn(file),
      );
    } catch (error) {
      const why = error instanceof Error ? error.message : "not readable";
      throw new Error(`${file.name}: ${why}`, { cause: error });
    }
  }
  return told.join(" ");
}

async function recipeIn(file: File): Promise<string> {
  return `“${(await designFromFile(file)).name}” is on the shelf.`;
}

function inWords(taken: TakenIn): string {
  const parts = [
    [taken.added.length, "new"],
    [taken.continued.length, "with further revisions"],
    [taken.same.length, "here already"],
    [taken.beside.length, "kept beside others that differ"],
    [taken.forms.length, "thread forms new"],
  ] as const;
  const told = parts.filter(([count]) => count > 0).map(([count, words]) => `${count} ${words}`);
  return told.length ? `The shelf was brought in: ${told.join(", ")}.` : "The archive is empty.";
}

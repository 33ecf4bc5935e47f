import Button from "@mui/material/Button";
import Chip from "@mui/material/Chip";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import { PlainDialog } from "../look/PlainDialog";
import type { OnShelf } from "./sight";

interface Props {
  designs: OnShelf[];
  /** The tags that there are on the shelf. */
  known: string[];
  onChanged: () => Promise<void>;
  onClose: () => void;
}

/** The tags that some designs have: given to all of them, or taken from all of them. */
export function TagDialog({ designs, known, onChanged, onClose }: Props) {
  const [typed, setTyped] = useState("");
  const put = useMutation({
    mutationFn: async (change: (tags: string[]) => string[]) => {
      for (const { id, tags } of designs) {
        const params = { path: { design_id: id } };
        const body = { tags: change(tags) };
        await answer(client.PUT("/api/designs/{design_id}/tags", { params, body }));
      }
      setTyped("");
    },
    onSettled: onChanged,
  });
  const give = (tag: string) => put.mutate((tags) => [...new Set([...tags, tag])]);
  const have = [...new Set(designs.flatMap(({ tags }) => tags))].sort();
  const others = known.filter((tag) => !designs.every(({ tags }) => tags.includes(tag)));
  const count = (tag: string) => designs.filter(({ tags }) => tags.includes(tag)).length;
  return (
    <PlainDialog
      title={designs.length > 1 ? `Tags of ${designs.length} designs` : "Tags of this design"}
      onClose={onClose}
      narrow
    >
      <Stack spacing={1.5} sx={{ pt: 1 }}>
        <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", gap: 0.5 }}>
          {have.length === 0 && (
            <Typography variant="body2" color="text.secondary">
              No tag yet.
            </Typography>
          )}
          {have.map((tag) => (
            <Chip
              key={tag}
              label={designs.length > 1 ? `${tag} (${count(tag)})` : tag}
              size="small"
              title="Take this tag away"
              onDelete={() => put.mutate((tags) => tags.filter((one) => one !== tag))}
            />
          ))}
        </Stack>
        <Stack direction="row" spacing={1}>
          <TextField
            label="New tag"
            autoFocus
            fullWidth
            value={typed}
            onChange={(event) => setTyped(event.target.value.replaceAll(",", ""))}
            onKeyDown={(event) => {
              if (event.key === "Enter" && typed.trim()) give(typed.trim());
            }}
            slotProps={{ htmlInput: { maxLength: 40 } }}
          />
          <Button
            variant="contained"
            disabled={!typed.trim() || put.isPending}
            onClick={() => give(typed.trim())}
          >
            Give it
          </Button>
        </Stack>
        {others.length > 0 && (
          <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", gap: 0.5 }}>
            {others.map((tag) => (
              <Chip
                key={tag}
                label={`+ ${tag}`}
                size="small"
                variant="outlined"
                aria-label={`Give the tag ${tag}`}
                onClick={() => give(tag)}
              />
            ))}
          </Stack>
        )}
        {put.error && (
          <Typography variant="body2" color="error" role="alert">
            {put.error.message}.
          </Typography>
        )}
      </Stack>
    </PlainDialog>
  );
}

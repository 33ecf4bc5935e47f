import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Chip from "@mui/material/Chip";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link as RouterLink } from "react-router";
import { answer, client } from "../api/client";
import { useSession } from "../api/session";
import { ShareDialog } from "../people/ShareDialog";
import { VerdictLabel } from "../look/Verdict";
import { Choose } from "./ShelfRow";
import type { OnShelf } from "./sight";

interface Props {
  item: OnShelf;
  chosen: boolean;
  onChoose: () => void;
  onDelete: () => void;
  onChanged: () => void;
  /** Looks at those of a tag alone. */
  onTag: (tag: string) => void;
}

/** A picture that has left the page is asked for no more. */
const loadNoMore = (picture: HTMLImageElement) => () => picture.removeAttribute("src");

/** One design: its picture, name, verdict and kind, and what can be done with it. */
export function ShelfCard({ item, chosen, onChoose, onDelete, onChanged, onTag }: Props) {
  const [renaming, setRenaming] = useState<string | null>(null);
  const [failed, setFailed] = useState(0);
  const [sharing, setSharing] = useState(false);
  const session = useSession();
  const pictured = item.verdict !== "unusable" && failed !== item.revision;
  const path = { design_id: item.id };
  const rename = useMutation({
    mutationFn: (name: string) =>
      answer(client.PUT("/api/designs/{design_id}/name", { params: { path }, body: { name } })),
    onSuccess: () => {
      setRenaming(null);
      onChanged();
    },
  });
  const copy = useMutation({
    mutationFn: () => answer(client.POST("/api/designs/{design_id}/copy", { params: { path } })),
    onSuccess: onChanged,
  });
  return (
    <Box
      component="li"
      sx={{
        border: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        display: "flex",
        flexDirection: "column",
        contentVisibility: "auto",
        containIntrinsicSize: "auto 264px",
      }}
    >
      <Box
        component={RouterLink}
        to={`/designs/${item.id}`}
        aria-label={`Open ${item.name}`}
        sx={{ display: "block", height: 168, textAlign: "center", py: 1 }}
      >
        {pictured ? (
          <img
            ref={loadNoMore}
            src={`/api/designs/${item.id}/revisions/${item.revision}/picture`}
            alt=""
            height="152"
            loading="lazy"
            onError={() => setFailed(item.revision)}
          />
        ) : (
          <Typography color="text.secondary" aria-hidden="true" sx={{ pt: 8 }}>
            no picture yet
          </Typography>
        )}
      </Box>
      <Box sx={{ px: 1.5, pb: 1, borderTop: 1, borderColor: "divider", pt: 1 }}>
        {renaming === null ? (
          <Stack direction="row" sx={{ alignItems: "center", ml: -0.75 }}>
            <Choose item={item} chosen={chosen} onChoose={onChoose} />
            <Typography variant="h2" noWrap title={item.name}>
              {item.name}
            </Typography>
          </Stack>
        ) : (
          <TextField
            label="Name"
            autoFocus
            fullWidth
            value={renaming}
            onChange={(event) => setRenaming(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && renaming.trim()) rename.mutate(renaming.trim());
              if (event.key === "Escape") setRenaming(null);
            }}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
        )}
        <Stack direction="row" sx={{ justifyContent: "space-between", my: 0.5 }}>
          <VerdictLabel verdict={item.verdict} />
          <Typography variant="body2">{item.kind}</Typography>
        </Stack>
        {item.tags.length > 0 && (
          <Stack direction="row" useFlexGap sx={{ flexWrap: "wrap", gap: 0.5, mb: 0.5 }}>
            {item.tags.map((tag) => (
              <Chip
                key={tag}
                label={tag}
                size="small"
                variant="outlined"
                onClick={() => onTag(tag)}
                title={`Look at those with the tag “${tag}” alone`}
              />
            ))}
          </Stack>
        )}
        <Stack direction="row" sx={{ ml: -0.75, "& .MuiButton-root": { minWidth: 0, px: 0.75 } }}>
          {renaming === null ? (
            <Button
              variant="text"
              onClick={() => setRenaming(item.name)}
              aria-label={`Rename ${item.name}`}
            >
              Rename
            </Button>
          ) : (
            <Button
              variant="text"
              disabled={!renaming.trim()}
              onClick={() => rename.mutate(renaming.trim())}
            >
              Keep the name
            </Button>
          )}
          <Button
            variant="text"
            onClick={() => copy.mutate()}
            aria-label={`Duplicate ${item.name}`}
          >
            Duplicate
          </Button>
          <Button
            variant="text"
            href={`/api/designs/${item.id}/recipe`}
            download
            aria-label={`Recipe of ${item.name}`}
          >
            Recipe
          </Button>
          {session.team && (
            <Button
              variant="text"
              onClick={() => setSharing(true)}
              aria-label={`Share ${item.name}`}
            >
              Share
            </Button>
          )}
          <Button variant="text" onClick={onDelete} aria-label={`Delete ${item.name}`}>
            Delete
          </Button>
        </Stack>
        {sharing && <ShareDialog design={item} onClose={() => setSharing(false)} />}
      </Box>
    </Box>
  );
}

import Chip from "@mui/material/Chip";
import type { SxProps, Theme } from "@mui/material/styles";
import TextField from "@mui/material/TextField";
import { useMutation } from "@tanstack/react-query";
import { memo, useState } from "react";
import { Link as RouterLink } from "react-router";
import { answer, client } from "../api/client";
import { useSession } from "../api/session";
import { Picture } from "../look/Picture";
import { VerdictLabel } from "../look/Verdict";
import { ShareDialog } from "../people/ShareDialog";
import { Choose } from "./ShelfRow";
import type { OnShelf } from "./sight";

interface Props {
  item: OnShelf;
  chosen: boolean;
  onChoose: (id: string) => void;
  onCopy: (id: string) => void;
  onDelete: (item: OnShelf) => void;
  onChanged: () => void;
  /** Looks at those of a tag alone. */
  onTag: (tag: string) => void;
}

/** How a list of cards looks: told once, not card by card, so that a thousand are scrolled past with ease. */
export const CARDS: SxProps<Theme> = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(272px, 1fr))",
  gap: 2,
  "& > li": {
    border: 1,
    borderColor: "divider",
    bgcolor: "background.paper",
    display: "flex",
    flexDirection: "column",
    contentVisibility: "auto",
    containIntrinsicSize: "auto 264px",
  },
  "& .to-design": { display: "block", height: 168, textAlign: "center", py: 1 },
  "& .no-picture": { color: "text.secondary", pt: 8, m: 0 },
  "& .about": { px: 1.5, pt: 1, pb: 1, borderTop: 1, borderColor: "divider" },
  "& .named": { display: "flex", alignItems: "center", ml: -0.75 },
  "& h2": {
    typography: "h2",
    m: 0,
    overflow: "hidden",
    textOverflow: "ellipsis",
    whiteSpace: "nowrap",
  },
  "& .stands": { display: "flex", justifyContent: "space-between", my: 0.5, typography: "body2" },
  "& .tags": { display: "flex", flexWrap: "wrap", gap: 0.5, mb: 0.5 },
  "& .doings": { display: "flex", ml: -0.75, gap: 0.25 },
  "& .doings > *": { px: 0.75, py: 0.5, borderRadius: 1, textDecoration: "none", lineHeight: 1.35 },
  "& .doings > *:hover": { bgcolor: "action.hover" },
};

/** One design: its picture, name, verdict and kind, and what can be done with it. */
export const ShelfCard = memo(function ShelfCard(props: Props) {
  const { item, chosen, onChoose, onCopy, onDelete, onChanged, onTag } = props;
  const [renaming, setRenaming] = useState(false);
  const [failed, setFailed] = useState(0);
  const pictured = item.verdict !== "unusable" && failed !== item.revision;
  return (
    <li>
      <RouterLink className="to-design" to={`/designs/${item.id}`} aria-label={`Open ${item.name}`}>
        {pictured ? (
          <Picture
            src={`/api/designs/${item.id}/revisions/${item.revision}/picture`}
            height={152}
            onError={() => setFailed(item.revision)}
          />
        ) : (
          <p className="no-picture" aria-hidden="true">
            no picture yet
          </p>
        )}
      </RouterLink>
      <div className="about">
        {renaming ? (
          <Rename item={item} onChanged={onChanged} onClose={() => setRenaming(false)} />
        ) : (
          <div className="named">
            <Choose item={item} chosen={chosen} onChoose={onChoose} />
            <h2 title={item.name}>{item.name}</h2>
          </div>
        )}
        <div className="stands">
          <VerdictLabel verdict={item.verdict} />
          {item.kind}
        </div>
        {item.tags.length > 0 && (
          <div className="tags">
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
          </div>
        )}
        {!renaming && (
          <div className="doings">
            <Doing word="Rename" item={item} onClick={() => setRenaming(true)} />
            <Doing word="Duplicate" item={item} onClick={() => onCopy(item.id)} />
            <a
              className="plain-action"
              href={`/api/designs/${item.id}/recipe`}
              download
              aria-label={`Recipe of ${item.name}`}
            >
              Recipe
            </a>
            <Share item={item} />
            <Doing word="Delete" item={item} onClick={() => onDelete(item)} />
          </div>
        )}
      </div>
    </li>
  );
});

function Doing({ word, item, onClick }: { word: string; item: OnShelf; onClick: () => void }) {
  return (
    <button
      type="button"
      className="plain-action"
      aria-label={`${word} ${item.name}`}
      onClick={onClick}
    >
      {word}
    </button>
  );
}

/** The name of a design, to be typed anew: Enter keeps it, Escape leaves it. */
function Rename({
  item,
  onChanged,
  onClose,
}: {
  item: OnShelf;
  onChanged: () => void;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState(item.name);
  const name = typed.trim();
  const rename = useMutation({
    mutationFn: () => {
      const params = { path: { design_id: item.id } };
      return answer(client.PUT("/api/designs/{design_id}/name", { params, body: { name } }));
    },
    onSuccess: () => {
      onClose();
      onChanged();
    },
  });
  const keep = () => name && rename.mutate();
  return (
    <>
      <TextField
        label="Name"
        autoFocus
        fullWidth
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter") keep();
          if (event.key === "Escape") onClose();
        }}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <div className="doings">
        <button type="button" className="plain-action" disabled={!name} onClick={keep}>
          Keep the name
        </button>
        <button type="button" className="plain-action" onClick={onClose}>
          Leave it
        </button>
      </div>
    </>
  );
}

/** Who else has the design, where there are other people. */
function Share({ item }: { item: OnShelf }) {
  const [open, setOpen] = useState(false);
  if (!useSession().team) return null;
  return (
    <>
      <Doing word="Share" item={item} onClick={() => setOpen(true)} />
      {open && <ShareDialog design={item} onClose={() => setOpen(false)} />}
    </>
  );
}

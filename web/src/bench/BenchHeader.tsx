import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import useMediaQuery from "@mui/material/useMediaQuery";
import visuallyHidden from "@mui/utils/visuallyHidden";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { useLook } from "../look/Look";
import { PageHeader } from "../look/PageHeader";
import { useDesk, useRecipe } from "../state/bench";
import type { Saving } from "../state/useAutosave";
import { Commands, type Command } from "./Commands";
import { HistoryDrawer } from "./HistoryDrawer";
import { useName, useSaving, useThreaded } from "./PartContext";

const SAVED: Record<Saving["state"], string> = {
  new: "not on the shelf yet",
  saved: "saved",
  waiting: "saving…",
  saving: "saving…",
  conflict: "not saved: changed elsewhere",
  offline: "not saved",
};

const PAGES = [
  { title: "Compare", page: "changes", threads: true },
  { title: "Survey", page: "survey", threads: true },
  { title: "Run-through", page: "run", threads: false },
  { title: "Winding", page: "winding", threads: false },
  { title: "Hand over", page: "hand-over", threads: true },
] as const;

/** The name, how it is saved, the way to the studies of it, and what was done. */
export function BenchHeader({ steps }: { steps: readonly (readonly [string, string])[] }) {
  const name = useName();
  const threaded = useThreaded();
  const saving = useSaving();
  const set = useRecipe((state) => state.set);
  const { undo, redo } = useRecipe.temporal.getState();
  const pasts = useStore(useRecipe.temporal, (state) => state.pastStates.length);
  const futures = useStore(useRecipe.temporal, (state) => state.futureStates.length);
  const [history, setHistory] = useState(false);
  const openStep = useDesk((state) => state.openStep);
  const { toggle, dark } = useLook();
  const navigate = useNavigate();
  const pages = PAGES.filter((one) => one.threads || !threaded);
  const go = async (page: string) => {
    const kept = await saving.flush();
    if (kept) void navigate(`/designs/${kept.id}/${page}`);
  };
  const focus = (selector: string) => document.querySelector<HTMLElement>(selector)?.focus();
  const commands: Command[] = [
    ...steps.map(([id, title], index) => ({
      title: `Step: ${title}`,
      ...(index < 9 && { keys: `Alt+${index + 1}` }),
      run: () => {
        openStep(id);
        focus(`#step-${id}`);
      },
    })),
    { title: "To the part in 3D", keys: "Alt+S", run: () => focus("[data-space]") },
    { title: "To the figures", keys: "Alt+G", run: () => focus("[data-figure]") },
    { title: "To the wire", keys: "Alt+W", run: () => focus("[data-wire]") },
    ...pages.map(({ title, page }) => ({ title, run: () => void go(page) })),
    { title: "Undo", keys: "Ctrl+Z", run: () => undo() },
    { title: "Redo", keys: "Ctrl+Y", run: () => redo() },
    { title: "Redo, as well", keys: "Ctrl+Shift+Z", run: () => redo() },
    { title: "History and revisions", keys: "Alt+H", run: () => setHistory(true) },
    { title: dark ? "Look: day" : "Look: lamplight", run: toggle },
    { title: "Guide", run: () => void navigate("/guide") },
    { title: "Shelf", run: () => void navigate("/") },
    { title: "New design", run: () => void navigate("/new") },
  ];
  return (
    <PageHeader>
      <Typography component="h1" sx={visuallyHidden}>
        {name ?? "Design"}
      </Typography>
      <InputBase
        value={name ?? ""}
        onChange={(event) => set("/name", event.target.value)}
        inputProps={{ "aria-label": "Name of the design", maxLength: 120 }}
        sx={{ typography: "h1", fontSize: "1.15rem", flex: 1, px: 0.5, minWidth: 90 }}
      />
      <Typography
        variant="body2"
        color="text.secondary"
        role="status"
        data-testid="saved"
        noWrap
        sx={{ flexShrink: 1, minWidth: 60 }}
      >
        {SAVED[saving.state]}
        {saving.state === "offline" && `: ${saving.trouble}`}
        {saving.id && `, revision ${saving.revision}`}
      </Typography>
      <Pages pages={pages} go={(page) => void go(page)} />
      <Button variant="text" disabled={pasts === 0} onClick={() => undo()}>
        Undo
      </Button>
      <Button variant="text" disabled={futures === 0} onClick={() => redo()}>
        Redo
      </Button>
      <Button variant="text" onClick={() => setHistory(true)} aria-haspopup="dialog">
        History
      </Button>
      {history && <HistoryDrawer onClose={() => setHistory(false)} />}
      <Commands commands={commands} />
    </PageHeader>
  );
}

interface PagesProps {
  pages: readonly { title: string; page: string }[];
  go: (page: string) => void;
}

/** The pages that study the design; where there is little room, one menu of them. */
function Pages({ pages, go }: PagesProps) {
  const wide = useMediaQuery("(min-width: 1180px)");
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  if (wide) {
    return pages.map(({ title, page }) => (
      <Button key={page} variant="text" onClick={() => go(page)}>
        {title}
      </Button>
    ));
  }
  return (
    <>
      <Button variant="text" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
        Studies
      </Button>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        {pages.map(({ title, page }) => (
          <MenuItem key={page} onClick={() => go(page)}>
            {title}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

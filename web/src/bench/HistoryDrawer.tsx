import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Drawer from "@mui/material/Drawer";
import List from "@mui/material/List";
import ListItem from "@mui/material/ListItem";
import ListItemButton from "@mui/material/ListItemButton";
import ListItemText from "@mui/material/ListItemText";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { answer, client, type AnyRecipe } from "../api/client";
import { revisionOf } from "../api/revisions";
import { Picture } from "../look/Picture";
import { placeWords } from "../schema/schema";
import { useRecipe } from "../state/bench";
import { at, differAt } from "../state/pointer";
import { useLay } from "./OtherRevision";
import { useSaving } from "./PartContext";

/** What was done since the design was opened, and its revisions: each can be gone back to. */
export function HistoryDrawer({ onClose }: { onClose: () => void }) {
  return (
    <Drawer
      anchor="right"
      open
      onClose={onClose}
      slotProps={{ paper: { sx: { width: 340 }, "aria-label": "History" } }}
    >
      <Stack sx={{ p: 1.5, gap: 1.5 }} role="region" aria-label="History">
        <Stack direction="row" sx={{ alignItems: "center" }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            History
          </Typography>
          <Button variant="text" autoFocus onClick={onClose}>
            Close
          </Button>
        </Stack>
        <Done />
        <Revisions onClose={onClose} />
      </Stack>
    </Drawer>
  );
}

/** The edits of this visit, the last one first. */
function Done() {
  const pasts = useStore(useRecipe.temporal, (state) => state.pastStates);
  const recipe = useRecipe((state) => state.recipe);
  const { undo } = useRecipe.temporal.getState();
  const states = [...pasts.map((past) => past.recipe ?? null), recipe];
  return (
    <section aria-label="Done since it was opened">
      <Typography variant="h3">Since it was opened</Typography>
      {pasts.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          Nothing was changed yet.
        </Typography>
      )}
      <List dense disablePadding>
        {pasts
          .map((_, index) => (
            <ListItem key={index} disablePadding>
              <ListItemButton
                onClick={() => undo(pasts.length - index)}
                title="Go back to before this"
              >
                <ListItemText primary={edit(states[index]!, states[index + 1]!)} />
              </ListItemButton>
            </ListItem>
          ))
          .reverse()}
      </List>
    </section>
  );
}

function edit(before: AnyRecipe, after: AnyRecipe): string {
  const place = differAt(before, after) ?? "";
  const words = place && placeWords({ ...before, ...after }, place);
  const [was, is] = [at(before, place), at(after, place)];
  if (place === "") return "Several things at once";
  const plain = [was, is].every((value) => typeof value !== "object");
  return plain ? `${words}: ${was ?? "none"} → ${is ?? "none"}` : words;
}

const hide = (picture: HTMLImageElement) => (picture.style.visibility = "hidden");

/** The saved revisions, the newest first, each with its picture. */
function Revisions({ onClose }: { onClose: () => void }) {
  const saving = useSaving();
  const lay = useLay();
  const change = useRecipe((state) => state.change);
  const id = saving.id ?? "";
  const { data } = useQuery({
    queryKey: ["revisions", id, saving.revision],
    enabled: saving.id !== null,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/revisions", {
          params: { path: { design_id: id }, query: { limit: 40 } },
        }),
      ),
  });
  const restore = async (number: number) => {
    const old = await revisionOf(id, number);
    change(() => old.recipe as unknown as AnyRecipe);
  };
  return (
    <section aria-label="Revisions">
      <Typography variant="h3">Revisions</Typography>
      {!data && (
        <Typography variant="body2" color="text.secondary">
          The first edit puts it on the shelf as revision 1.
        </Typography>
      )}
      <Stack component="ol" sx={{ listStyle: "none", p: 0, m: 0, gap: 0.5 }}>
        {[...(data ?? [])].reverse().map(({ number, created, verdict }) => (
          <Box
            component="li"
            key={number}
            sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
          >
            <Picture
              src={`/api/designs/${id}/revisions/${number}/picture`}
              width={80}
              height={55}
              onError={hide}
            />
            <Typography variant="body2" sx={{ flex: 1, px: 1 }}>
              revision {number}
              <br />
              <Typography variant="caption" color="text.secondary">
                {new Date(created).toLocaleString()}
              </Typography>
            </Typography>
            {number === saving.revision ? (
              <Typography variant="caption">now</Typography>
            ) : (
              <Stack sx={{ alignItems: "flex-end", "& .MuiButton-root": { py: 0, minHeight: 26 } }}>
                <Button
                  variant="text"
                  aria-label={`Restore revision ${number}`}
                  onClick={() => void restore(number)}
                >
                  Restore
                </Button>
                {verdict !== "unusable" && (
                  <Button
                    variant="text"
                    aria-label={`Lay over, revision ${number}`}
                    onClick={() => {
                      lay(number);
                      onClose();
                    }}
                  >
                    Lay over
                  </Button>
                )}
              </Stack>
            )}
          </Box>
        ))}
      </Stack>
    </section>
  );
}

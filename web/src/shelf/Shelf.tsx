import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { startTransition, useCallback, useDeferredValue, useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client, type ShelfItem } from "../api/client";
import { useLook } from "../look/Look";
import { Account } from "../people/Account";
import { BuildDialog } from "./BuildDialog";
import { InAndOut } from "./InAndOut";
import { ShelfBar } from "./ShelfBar";
import { CARDS, ShelfCard } from "./ShelfCard";
import { ShelfRow } from "./ShelfRow";
import { filtersOf, seen, WHOLE, wordsIn } from "./sight";
import { TagDialog } from "./TagDialog";

/** While some designs that came in are still being looked at. */
const LOOK_AGAIN_MS = 2000;

/** All designs, with what they are and how they stand. */
export function Shelf() {
  const [sight, setSight] = useState(WHOLE);
  const [ticked, setChosen] = useState<string[]>([]);
  const wanted = useDeferredValue(sight.search.trim());
  const [gone, setGone] = useState<ShelfItem[]>([]);
  const { toggle, dark } = useLook();
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ["shelf"] });
  const { data, error, refetch } = useQuery({
    queryKey: ["shelf", wanted],
    queryFn: () => answer(client.GET("/api/designs", { params: { query: { search: wanted } } })),
    placeholderData: (old) => old,
    staleTime: 0,
    refetchInterval: ({ state }) =>
      state.data?.some((one) => one.verdict === "unknown") ? LOOK_AGAIN_MS : false,
  });
  const remove = useMutation({
    mutationFn: async (items: ShelfItem[]) => {
      for (const item of items) {
        const params = { path: { design_id: item.id } };
        await answer(client.DELETE("/api/designs/{design_id}", { params }));
        setGone((old) => [...old, item]);
      }
    },
    onMutate: () => setGone([]),
    onSettled: refresh,
  });
  const restore = useMutation({
    mutationFn: async (items: ShelfItem[]) => {
      for (const item of items) {
        const params = { path: { design_id: item.id } };
        await answer(client.POST("/api/designs/{design_id}/restore", { params }));
        setGone((old) => old.filter((one) => one !== item));
      }
    },
    onSettled: refresh,
  });
  const copy = useMutation({
    mutationFn: (id: string) =>
      answer(client.POST("/api/designs/{design_id}/copy", { params: { path: { design_id: id } } })),
    onSuccess: refresh,
  });
  const failed = remove.error ?? restore.error ?? copy.error;
  const shown = seen(data ?? [], sight);
  const chosen = shown.flatMap(({ id }) => (ticked.includes(id) ? [id] : []));
  const [most, more] = useMore();
  const choose = (id: string) =>
    setChosen((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id]));
  const takeOff = (item: ShelfItem) => remove.mutate([item]);
  const lookAtTag = (tag: string) => setSight((old) => ({ ...old, tag }));
  const taken = (data ?? []).filter(({ id }) => chosen.includes(id));
  const [dialog, setDialog] = useState<"tags" | "builds" | null>(null);
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: 3, py: 2 }}>
      <Stack direction="row" spacing={2} sx={{ alignItems: "center", mb: 2.5 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Metaspira
        </Typography>
        <Button variant="text" component={Link} to="/guide">
          Guide
        </Button>
        <Button variant="outlined" component={Link} to="/springs">
          Find a spring
        </Button>
        <Button variant="outlined" component={Link} to="/threads">
          Find a thread
        </Button>
        <Button variant="contained" component={Link} to="/new">
          New design
        </Button>
        <Account />
        <Button variant="text" onClick={toggle}>
          {dark ? "Day" : "Lamplight"}
        </Button>
      </Stack>
      {(error ?? failed) && (
        <Alert
          severity="error"
          icon={false}
          sx={{ mb: 2 }}
          action={<Button onClick={() => void refetch()}>Try again</Button>}
        >
          The shelf does not answer. Nothing is lost; the server may be starting.
        </Alert>
      )}
      <ShelfBar
        sight={sight}
        onSight={(change) => setSight((old) => ({ ...old, ...change }))}
        filters={filtersOf(data ?? [])}
        shown={shown.length}
        chosen={chosen}
        onChooseNone={() => setChosen([])}
        onTag={() => setDialog("tags")}
        onBuild={() => setDialog("builds")}
        onDelete={() => {
          remove.mutate(taken);
          setChosen([]);
        }}
      />
      {dialog === "tags" && (
        <TagDialog
          designs={taken}
          known={wordsIn(data ?? [], "tag")}
          onChanged={refresh}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === "builds" && <BuildDialog designs={taken} onClose={() => setDialog(null)} />}
      {data && shown.length === 0 && (
        <Typography sx={{ py: 8, textAlign: "center" }} color="text.secondary">
          {data.length > 0 || wanted
            ? "No design matches. Search for less, or choose any kind and verdict."
            : "The shelf is empty. Begin with a new design."}
        </Typography>
      )}
      <Box
        component="ul"
        aria-label="Designs"
        sx={{ ...(sight.list ? {} : CARDS), p: 0, m: 0, listStyle: "none" }}
      >
        {shown.slice(0, most).map((item) => {
          const choice = { item, chosen: chosen.includes(item.id), onChoose: choose };
          return sight.list ? (
            <ShelfRow key={item.id} {...choice} />
          ) : (
            <ShelfCard
              key={item.id}
              {...choice}
              onCopy={copy.mutate}
              onDelete={takeOff}
              onChanged={refresh}
              onTag={lookAtTag}
            />
          );
        })}
      </Box>
      {most < shown.length && (
        <div key={most} ref={more}>
          …
        </div>
      )}
      <InAndOut onChanged={() => void refresh()} />
      <Snackbar
        open={gone.length > 0}
        onClose={(_, reason) => reason === "timeout" && setGone([])}
        autoHideDuration={12000}
        message={
          gone.length > 1
            ? `${gone.length} designs were taken off the shelf.`
            : `“${gone[0]?.name}” was taken off the shelf.`
        }
        action={
          <Button color="inherit" onClick={() => restore.mutate(gone)}>
            {gone.length > 1 ? "Put them back" : "Put it back"}
          </Button>
        }
      />
    </Box>
  );
}

const AT_ONCE = 60;
const MORE = 24;

/** How many are drawn, and where to stand for more of them to be. */
function useMore() {
  const [most, setMost] = useState(AT_ONCE);
  const watcher = useRef<IntersectionObserver | null>(null);
  const more = useCallback((mark: HTMLElement | null) => {
    watcher.current?.disconnect();
    if (!mark) return;
    watcher.current = new IntersectionObserver(
      ([seen]) => {
        if (seen?.isIntersecting) startTransition(() => setMost((old) => old + MORE));
      },
      { rootMargin: "800px" },
    );
    watcher.current.observe(mark);
  }, []);
  return [most, more] as const;
}

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client, type ShelfItem } from "../api/client";
import { useLook } from "../look/Look";
import { Account } from "../people/Account";
import { InAndOut } from "./InAndOut";
import { ShelfCard } from "./ShelfCard";

/** All designs, with what they are and how they stand. */
export function Shelf() {
  const [search, setSearch] = useState("");
  const wanted = useDeferredValue(search.trim());
  const [gone, setGone] = useState<ShelfItem | null>(null);
  const { toggle, dark } = useLook();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const refresh = () => queries.invalidateQueries({ queryKey: ["shelf"] });
  const { data, error, refetch } = useQuery({
    queryKey: ["shelf", wanted],
    queryFn: () => answer(client.GET("/api/designs", { params: { query: { search: wanted } } })),
    placeholderData: (old) => old,
    staleTime: 0,
  });
  const create = useMutation({
    mutationFn: () => answer(client.POST("/api/designs", { body: {} })),
    onSuccess: (design) => navigate(`/designs/${design.id}`),
  });
  const remove = useMutation({
    mutationFn: async (item: ShelfItem) => {
      await answer(
        client.DELETE("/api/designs/{design_id}", { params: { path: { design_id: item.id } } }),
      );
      return item;
    },
    onSuccess: (item) => {
      setGone(item);
      void refresh();
    },
  });
  const restore = useMutation({
    mutationFn: (item: ShelfItem) =>
      answer(
        client.POST("/api/designs/{design_id}/restore", {
          params: { path: { design_id: item.id } },
        }),
      ),
    onSuccess: () => {
      setGone(null);
      void refresh();
    },
  });
  const failed = create.error ?? remove.error ?? restore.error;
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: 3, py: 2 }}>
      <Stack direction="row" spacing={2} sx={{ alignItems: "center", mb: 2.5 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Metaspira
        </Typography>
        <TextField
          label="Search by name"
          type="search"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          sx={{ width: 240 }}
        />
        <Button variant="outlined" component={Link} to="/springs">
          Find a spring
        </Button>
        <Button variant="outlined" component={Link} to="/threads">
          Find a thread
        </Button>
        <Button variant="contained" onClick={() => create.mutate()} disabled={create.isPending}>
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
      {data?.length === 0 && (
        <Typography sx={{ py: 8, textAlign: "center" }} color="text.secondary">
          {wanted
            ? `No design is called “${wanted}”.`
            : "The shelf is empty. Begin with a new design."}
        </Typography>
      )}
      <Box
        component="ul"
        aria-label="Designs"
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(272px, 1fr))",
          gap: 2,
          p: 0,
          m: 0,
          listStyle: "none",
        }}
      >
        {data?.map((item) => (
          <ShelfCard
            key={item.id}
            item={item}
            onDelete={() => remove.mutate(item)}
            onChanged={refresh}
          />
        ))}
      </Box>
      <InAndOut onChanged={() => void refresh()} />
      <Snackbar
        open={gone !== null}
        onClose={(_, reason) => reason === "timeout" && setGone(null)}
        autoHideDuration={12000}
        message={gone ? `“${gone.name}” was taken off the shelf.` : ""}
        action={
          <Button color="inherit" onClick={() => gone && restore.mutate(gone)}>
            Put it back
          </Button>
        }
      />
    </Box>
  );
}

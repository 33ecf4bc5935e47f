import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../api/client";
import { Choice } from "../bench/Choice";
import { PlainDialog } from "../look/PlainDialog";
import { DataTable } from "../look/DataTable";

type Role = Schemas["ShareOut"]["role"];

const ROLES = [
  ["read", "may read it"],
  ["edit", "may edit it"],
  ["own", "owns it"],
] as const;

interface Props {
  design: { id: string; name: string };
  onClose: () => void;
}

const DEEDS = 12;

/** Who may read, edit and own a design, and what was changed by whom. */
export function ShareDialog({ design, onClose }: Props) {
  const path = { design_id: design.id };
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("read");
  const { data: shares = [] } = useQuery({
    queryKey: ["shares", design.id],
    queryFn: () => answer(client.GET("/api/designs/{design_id}/share", { params: { path } })),
  });
  const deeds = useInfiniteQuery({
    queryKey: ["deeds", design.id],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam: before }) =>
      answer(
        client.GET("/api/designs/{design_id}/deeds", {
          params: { path, query: { before, limit: DEEDS } },
        }),
      ),
    getNextPageParam: (page) => (page.length < DEEDS ? undefined : page.at(-1)?.id),
  });
  const give = useMutation({
    mutationFn: (body: { name: string; role: Role | null }) =>
      answer(client.PUT("/api/designs/{design_id}/share", { params: { path }, body })),
    onSuccess: (next) => {
      queries.setQueryData(["shares", design.id], next);
      void queries.invalidateQueries({ queryKey: ["deeds", design.id] });
      setName("");
    },
  });
  const leave = useMutation({
    mutationFn: () => answer(client.DELETE("/api/designs/{design_id}/share", { params: { path } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["shelf"] });
      onClose();
    },
  });
  const refusal = give.error ?? leave.error;
  const told = deeds.data?.pages.flat() ?? [];
  return (
    <PlainDialog
      title={`Who works on ${design.name}`}
      onClose={onClose}
      actions={<Button onClick={() => leave.mutate()}>Leave this design</Button>}
    >
      <Stack spacing={1.5} component="ul" sx={{ p: 0, pt: 1, m: 0, listStyle: "none" }}>
        {shares.map((share) => (
          <Stack
            key={share.name}
            component="li"
            direction="row"
            spacing={1}
            sx={{ alignItems: "center" }}
          >
            <Typography sx={{ flex: 1 }}>{share.name}</Typography>
            <Box sx={{ width: 150 }}>
              <Choice
                label={`Role of ${share.name}`}
                value={share.role}
                options={ROLES}
                onChange={(next) => give.mutate({ name: share.name, role: next })}
              />
            </Box>
            <Button
              variant="text"
              onClick={() => give.mutate({ name: share.name, role: null })}
              aria-label={`Take ${share.name} out`}
            >
              Take out
            </Button>
          </Stack>
        ))}
      </Stack>
      <Stack direction="row" spacing={1} sx={{ mt: 2 }}>
        <TextField label="Name" value={name} onChange={(e) => setName(e.target.value)} />
        <Choice label="Role" value={role} options={ROLES} onChange={setRole} />
        <Button
          variant="contained"
          disabled={!name.trim() || give.isPending}
          onClick={() => give.mutate({ name: name.trim(), role })}
        >
          Share
        </Button>
      </Stack>
      {refusal && (
        <Typography variant="body2" color="error" role="alert" sx={{ mt: 1 }}>
          {refusal.message}.
        </Typography>
      )}
      {told.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <DataTable
            label="What was changed"
            words={[0, 1, 2]}
            rows={told.map((deed) => ({
              key: String(deed.id),
              cells: [new Date(deed.at).toLocaleString(), deed.person, inWords(deed)],
            }))}
          />
        </Box>
      )}
      {deeds.hasNextPage && (
        <Button
          size="small"
          disabled={deeds.isFetchingNextPage}
          onClick={() => void deeds.fetchNextPage()}
        >
          Earlier
        </Button>
      )}
    </PlainDialog>
  );
}

function inWords({ method, path, status }: Schemas["DeedOut"]): string {
  const last = path.split("/").pop() ?? "";
  const what =
    {
      share: "shared it",
      name: "renamed it",
      tags: "tagged it",
      copy: "copied it",
      restore: "put it back",
      builds: "asked for a build",
      archive: "brought revisions in",
    }[last] ??
    (method === "GET" ? "took a file" : undefined) ??
    (method === "DELETE" ? "took it off the shelf" : "saved it");
  return status < 400 ? what : `${what}: refused`;
}

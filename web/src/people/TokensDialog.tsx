import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import { Choice } from "../bench/Choice";
import { PlainDialog } from "../look/PlainDialog";

const MAY = [
  ["read", "read"],
  ["edit", "read and edit"],
] as const;
const DAYS = [
  ["7", "7 days"],
  ["30", "30 days"],
  ["90", "90 days"],
  ["366", "a year"],
] as const;

const day = (moment: string) => new Date(moment).toLocaleDateString();

/** Tokens that programs sign in with. */
export function TokensDialog({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [may, setMay] = useState<"read" | "edit">("read");
  const [days, setDays] = useState("90");
  const refresh = () => queries.invalidateQueries({ queryKey: ["tokens"] });
  const { data: tokens = [] } = useQuery({
    queryKey: ["tokens"],
    queryFn: () => answer(client.GET("/api/tokens")),
  });
  const make = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/tokens", {
          body: { name, may_edit: may === "edit", days: Number(days) },
        }),
      ),
    onSuccess: refresh,
  });
  const takeBack = useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/tokens/{token_id}", { params: { path: { token_id: id } } })),
    onSuccess: refresh,
  });
  return (
    <PlainDialog title="Tokens for programs" onClose={onClose}>
      <Stack spacing={1}>
        {tokens.map((token) => (
          <Stack key={token.id} direction="row" spacing={1} sx={{ alignItems: "center" }}>
            <Typography sx={{ flex: 1 }}>{token.name}</Typography>
            <Typography variant="caption" color="text.secondary">
              {token.may_edit ? "may edit" : "may read"}, until {day(token.expires)},{" "}
              {token.used ? `used ${day(token.used)}` : "never used"}
            </Typography>
            <Button
              variant="text"
              onClick={() => takeBack.mutate(token.id)}
              aria-label={`Take ${token.name} back`}
            >
              Take back
            </Button>
          </Stack>
        ))}
        <Stack direction="row" spacing={1} sx={{ pt: 1 }}>
          <TextField
            label="What it is for"
            value={name}
            fullWidth
            onChange={(event) => setName(event.target.value)}
          />
          <Choice label="May" value={may} options={MAY} onChange={setMay} />
          <Choice label="For" value={days} options={DAYS} onChange={setDays} />
          <Button
            variant="contained"
            disabled={!name.trim() || make.isPending}
            onClick={() => make.mutate()}
          >
            Make
          </Button>
        </Stack>
        <Typography variant="body2">
          What a program can ask for stands in <a href="/api/reference">the reference</a>.
        </Typography>
        {make.data && (
          <Typography role="status" sx={{ overflowWrap: "anywhere" }}>
            Copy it now, it is not shown again: <code>{make.data.token}</code>
          </Typography>
        )}
      </Stack>
    </PlainDialog>
  );
}

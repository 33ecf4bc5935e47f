import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, setMark } from "../api/client";
import { PlainDialog } from "../look/PlainDialog";
import { PasswordField } from "./PasswordField";

/** A person's password, and where else they are signed in. */
export function AccountDialog({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const { data: sessions } = useQuery({
    queryKey: ["other sessions"],
    queryFn: () => answer(client.GET("/api/session/others")),
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ["other sessions"] });
  const change = useMutation({
    mutationFn: () => answer(client.PUT("/api/session/password", { body: { old, new: next } })),
    onSuccess: (session) => {
      setMark(session.mark);
      setOld("");
      setNext("");
      void refresh();
    },
  });
  const end = useMutation({
    mutationFn: () => answer(client.DELETE("/api/session/others")),
    onSuccess: refresh,
  });
  const others = sessions?.others ?? 0;
  return (
    <PlainDialog title="Password and sessions" onClose={onClose} narrow>
      <Stack
        component="form"
        spacing={1.5}
        sx={{ pt: 1 }}
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <PasswordField
          label="Present password"
          autoComplete="current-password"
          value={old}
          onChange={setOld}
        />
        <PasswordField
          label="New password"
          autoComplete="new-password"
          value={next}
          onChange={setNext}
        />
        <Button type="submit" variant="contained" disabled={!old || !next || change.isPending}>
          Change the password
        </Button>
        {change.error && (
          <Typography variant="body2" color="error" role="alert">
            {change.error.message}.
          </Typography>
        )}
        {change.isSuccess && (
          <Typography variant="body2" role="status">
            Changed. Whoever was signed in elsewhere is signed out.
          </Typography>
        )}
      </Stack>
      <Stack direction="row" spacing={1} sx={{ mt: 2, alignItems: "center" }}>
        <Typography variant="body2" sx={{ flex: 1 }}>
          {others === 0 ? "Signed in nowhere else." : `Signed in ${others} times elsewhere.`}
        </Typography>
        <Button disabled={others === 0 || end.isPending} onClick={() => end.mutate()}>
          Sign out elsewhere
        </Button>
      </Stack>
    </PlainDialog>
  );
}

import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, setMark } from "../api/client";

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
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Password and sessions</DialogTitle>
      <DialogContent>
        <Stack
          component="form"
          spacing={1.5}
          sx={{ pt: 1 }}
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate();
          }}
        >
          <TextField
            label="Present password"
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(event) => setOld(event.target.value)}
          />
          <TextField
            label="New password"
            type="password"
            autoComplete="new-password"
            value={next}
            onChange={(event) => setNext(event.target.value)}
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
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

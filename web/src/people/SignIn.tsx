import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import { PasswordField } from "./PasswordField";

/** Name and password, where people work together. */
export function SignIn({ onSignedIn }: { onSignedIn: () => void }) {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: () => answer(client.POST("/api/session", { body: { name, password } })),
    onSuccess: onSignedIn,
  });
  return (
    <Box component="main" sx={{ maxWidth: 340, mx: "auto", pt: "16vh", px: 2 }}>
      <Typography variant="h1" gutterBottom>
        Metaspira
      </Typography>
      <Stack
        component="form"
        spacing={1.5}
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <TextField
          label="Name"
          autoFocus
          autoComplete="username"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <PasswordField
          label="Password"
          autoComplete="current-password"
          value={password}
          onChange={setPassword}
        />
        {enter.error && (
          <Typography variant="body2" color="error" role="alert">
            {enter.error.message}.
          </Typography>
        )}
        <Button type="submit" variant="contained" disabled={!name || !password || enter.isPending}>
          Sign in
        </Button>
      </Stack>
    </Box>
  );
}

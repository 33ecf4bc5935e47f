import Button from "@mui/material/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import { useSession } from "../api/session";
import { dropAllUnsaved } from "../state/unsaved";
import { AccountDialog } from "./AccountDialog";
import { TokensDialog } from "./TokensDialog";

/** Who is signed in: their tokens, password and sessions, and the way out. */
export function Account() {
  const session = useSession();
  const queries = useQueryClient();
  const [tokens, setTokens] = useState(false);
  const [account, setAccount] = useState(false);
  const leave = useMutation({
    mutationFn: () => answer(client.DELETE("/api/session")),
    onSuccess: () => {
      queries.clear();
      dropAllUnsaved();
      window.location.assign("/");
    },
  });
  if (!session.team) return null;
  return (
    <>
      <Button variant="text" onClick={() => setTokens(true)}>
        Tokens
      </Button>
      <Button variant="text" onClick={() => setAccount(true)}>
        Password
      </Button>
      <Button variant="text" onClick={() => leave.mutate()}>
        Sign {session.name} out
      </Button>
      {account && <AccountDialog onClose={() => setAccount(false)} />}
      {tokens && <TokensDialog onClose={() => setTokens(false)} />}
    </>
  );
}

/** Who is signed in, where this is a team's Metaspira. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { answer, client, setMark, type Session } from "./client";
import { Opening } from "../look/Opening";
import { SignIn } from "../people/SignIn";

const SessionContext = createContext<Session>({
  team: false,
  name: null,
  mark: "",
  workshop: {},
});

export const useSession = () => useContext(SessionContext);

/** Lets in who is signed in; in the default mode everyone. What is open stays as it is under a session that ended. */
export function Gate({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [within, setWithin] = useState<string | null>(null);
  const { data, refetch } = useQuery({
    queryKey: ["session"],
    queryFn: async () => {
      const session = await answer(client.GET("/api/session"));
      setMark(session.mark);
      return session;
    },
    staleTime: Infinity,
    retry: 20,
    refetchOnWindowFocus: false,
  });
  useEffect(() => {
    const ended = () => void queries.invalidateQueries({ queryKey: ["session"] });
    window.addEventListener("metaspira-signed-out", ended);
    return () => window.removeEventListener("metaspira-signed-out", ended);
  }, [queries]);
  if (!data) return <Opening />;
  const out = data.team && data.name === null;
  if (!out && data.name !== within) {
    if (within !== null) window.location.assign("/");
    setWithin(data.name);
  }
  if (out && within === null) return <SignIn onSignedIn={() => void refetch()} />;
  return (
    <SessionContext value={data}>
      <div hidden={out}>{children}</div>
      {out && <SignIn onSignedIn={() => void refetch()} />}
    </SessionContext>
  );
}

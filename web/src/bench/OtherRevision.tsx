import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { useSearchParams } from "react-router";
import type { AnyRecipe } from "../api/client";
import { useRevision } from "../api/revisions";
import { OneSide } from "../compare/OneSide";
import { BEFORE, usePieces } from "../compare/sources";
import { useLook } from "../look/Look";
import type { Piece } from "./geometry";

const PLACE = "over";

/** Lays a revision over the part, or none. */
export function useLay(): (revision: number | null) => void {
  const [, setSearch] = useSearchParams();
  return (revision) => setSearch(revision === null ? {} : { [PLACE]: String(revision) });
}

/** The revision of a design that the address lays over the part. */
export function useOtherRevision(design: string | null) {
  const [search] = useSearchParams();
  const number = Number(search.get(PLACE));
  const { data } = useRevision(design, number);
  const pieces = usePieces((data?.recipe as unknown as AnyRecipe | undefined) ?? null);
  return data && pieces.length > 0 ? { number, pieces } : null;
}

/** Another revision, seen through. */
export function OtherShape({ pieces }: { pieces: Piece[] }) {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    invalidate();
    return () => invalidate();
  }, [pieces, invalidate]);
  return <OneSide pieces={pieces} colour={BEFORE} faint />;
}

/** Which revision lies over the part. */
export function OtherWords({ number }: { number: number }) {
  const { colours } = useLook();
  const lay = useLay();
  return (
    <Stack
      component="section"
      aria-label="The revision that lies over the part"
      direction="row"
      sx={{
        position: "absolute",
        bottom: 6,
        left: 10,
        px: 1,
        gap: 1,
        alignItems: "center",
        bgcolor: colours.sheet,
      }}
    >
      <Box sx={{ width: 12, height: 12, bgcolor: BEFORE, opacity: 0.7 }} />
      <Typography variant="caption">revision {number}</Typography>
      <Button variant="text" onClick={() => lay(null)}>
        Take it away
      </Button>
    </Stack>
  );
}

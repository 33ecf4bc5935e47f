import Box from "@mui/material/Box";
import CircularProgress from "@mui/material/CircularProgress";
import Typography from "@mui/material/Typography";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { answer, client, Refusal } from "../api/client";
import { Bench } from "./Bench";

/** Fetches the design, then works on it. */
export function BenchPage() {
  const { id = "" } = useParams();
  const { data, error } = useQuery({
    queryKey: ["design", id],
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  if (error) {
    return (
      <Box component="main" sx={{ p: 6, maxWidth: 520 }}>
        <Typography variant="h1" gutterBottom>
          This design cannot be opened
        </Typography>
        <Typography gutterBottom>
          {error instanceof Refusal && error.status === 404
            ? "There is no such design, or it was deleted."
            : "The server does not answer; it may be starting."}
        </Typography>
        <Button variant="contained" component={Link} to="/">
          Go to the shelf
        </Button>
      </Box>
    );
  }
  if (!data) {
    return (
      <Box component="main" sx={{ p: 6 }}>
        <CircularProgress aria-label="Opening the design" />
      </Box>
    );
  }
  return <Bench key={data.id} design={data} />;
}

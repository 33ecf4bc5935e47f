import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import CircularProgress from "@mui/material/CircularProgress";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { Refusal } from "../api/client";

/** A design is on its way. */
export function Opening() {
  return (
    <Box component="main" sx={{ p: 6 }}>
      <CircularProgress aria-label="Opening the design" />
    </Box>
  );
}

/** A design that cannot be shown, and why. */
export function CannotOpen({ error }: { error: Error }) {
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

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Component, lazy, Suspense, type ComponentType, type ReactNode } from "react";

/** A part of the interface that is fetched when it is first shown; `meanwhile` stands there until then. */
export function later<P extends object>(
  fetch: () => Promise<ComponentType<P>>,
  meanwhile: ReactNode = null,
): ComponentType<P> {
  const Fetched = lazy(() => fetch().then((found) => ({ default: found })));
  return (props: P) => (
    <Fetching>
      <Suspense fallback={meanwhile}>
        <Fetched {...props} />
      </Suspense>
    </Fetching>
  );
}

/** Says so where a part cannot be fetched: the server is away, or was renewed since the page was opened. */
class Fetching extends Component<{ children: ReactNode }, { failed: boolean }> {
  state = { failed: false };

  static getDerivedStateFromError(error: unknown) {
    if (!(error instanceof TypeError)) throw error;
    return { failed: true };
  }

  render() {
    if (!this.state.failed) return this.props.children;
    return (
      <Box role="alert" sx={{ p: 4, maxWidth: 460 }}>
        <Typography gutterBottom>
          This part of the page could not be fetched: the server does not answer, or was renewed
          since the page was opened. What is saved stays.
        </Typography>
        <Button variant="contained" onClick={() => location.reload()}>
          Load the page again
        </Button>
      </Box>
    );
  }
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Component, lazy, Suspense, type ComponentType, type ReactNode } from "react";

class NotFetched extends Error {}

/** A part of the interface that is fetched when it is first shown; `meanwhile` stands there until then. */
export function later<P extends object>(
  fetch: () => Promise<ComponentType<P>>,
  meanwhile: ReactNode = null,
): ComponentType<P> {
  const Fetched = lazy(() =>
    fetch().then(
      (found) => ({ default: found }),
      (reason: unknown) => {
        throw new NotFetched(String(reason));
      },
    ),
  );
  return (props: P) => (
    <Guarded>
      <Suspense fallback={meanwhile}>
        <Fetched {...props} />
      </Suspense>
    </Guarded>
  );
}

/**
 * Says so where a part cannot be fetched, because the server is away or was renewed since the page was opened, or
 * cannot be shown, because of a fault in the program; the rest of the page stays.
 */
export class Guarded extends Component<{ children: ReactNode }, { reason: unknown }> {
  state = { reason: undefined };

  static getDerivedStateFromError(reason: unknown) {
    return { reason };
  }

  render() {
    const { reason } = this.state;
    if (reason === undefined) return this.props.children;
    return (
      <Box role="alert" sx={{ p: 4, maxWidth: 460 }}>
        <Typography gutterBottom>{wordsOf(reason)} What is saved stays.</Typography>
        <Button variant="contained" onClick={() => location.reload()}>
          Load the page again
        </Button>
      </Box>
    );
  }
}

export function wordsOf(reason: unknown): string {
  return reason instanceof NotFetched
    ? "This part of the page could not be fetched: the server does not answer, or was renewed since the page was opened."
    : `This part of the page could not be shown, because of a fault in the program (${String(reason)}).`;
}

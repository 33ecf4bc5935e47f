import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** What is left of the page for a chart; it shows which of its points has the focus. */
export function FilledPlace({ children }: { children: ReactNode }) {
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        mt: 2,
        "& [role=button]:focus-visible": { outline: "none" },
        "& [role=button]:focus-visible > circle, & [role=button]:focus-visible > rect": {
          stroke: "currentColor",
          strokeWidth: 3,
        },
      }}
    >
      {children}
    </Box>
  );
}

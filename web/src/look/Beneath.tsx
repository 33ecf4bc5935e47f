import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

/** What is said beneath a name in a table. */
export function Beneath({ children }: { children: ReactNode }) {
  return (
    <Typography
      variant="caption"
      color="text.secondary"
      component="div"
      sx={{ lineHeight: 1.3, whiteSpace: "normal" }}
    >
      {children}
    </Typography>
  );
}

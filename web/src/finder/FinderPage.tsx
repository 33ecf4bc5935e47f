import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { PageHeader } from "../look/PageHeader";

interface Props {
  title: string;
  /** Width of the left column, px. */
  left: number;
  children: ReactNode;
}

/** A page that finds something: what is wanted at the left, what there is at the right. */
export function FinderPage({ title, left, children }: Props) {
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        height: "100vh",
        gridTemplateColumns: `${left}px minmax(0, 1fr)`,
        gridTemplateRows: "46px minmax(0, 1fr)",
      }}
    >
      <PageHeader>
        <Typography variant="h1" sx={{ fontSize: "1.15rem", flex: 1 }}>
          {title}
        </Typography>
      </PageHeader>
      {children}
    </Box>
  );
}

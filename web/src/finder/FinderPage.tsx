import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useLook } from "../look/Look";

interface Props {
  title: string;
  /** Width of the left column, px. */
  left: number;
  children: ReactNode;
}

/** A page that finds something: what is wanted at the left, what there is at the right. */
export function FinderPage({ title, left, children }: Props) {
  const { toggle, dark } = useLook();
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
      <Stack
        component="header"
        direction="row"
        spacing={1}
        sx={{
          gridColumn: "1 / -1",
          alignItems: "center",
          px: 1.5,
          borderBottom: 1,
          borderColor: "divider",
        }}
      >
        <Button component={Link} to="/" variant="text" sx={{ fontFamily: "h1.fontFamily" }}>
          Shelf
        </Button>
        <Typography variant="h1" sx={{ fontSize: "1.15rem", flex: 1 }}>
          {title}
        </Typography>
        <Button variant="text" onClick={toggle}>
          {dark ? "Day" : "Lamplight"}
        </Button>
      </Stack>
      {children}
    </Box>
  );
}

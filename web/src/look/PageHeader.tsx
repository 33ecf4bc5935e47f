import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useLook } from "./Look";

/** The head of a page that is not the shelf: the way back, what the page is, and the look. */
export function PageHeader({ children }: { children: ReactNode }) {
  const { toggle, dark } = useLook();
  return (
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
      {children}
      <Button variant="text" onClick={toggle}>
        {dark ? "Day" : "Lamplight"}
      </Button>
    </Stack>
  );
}

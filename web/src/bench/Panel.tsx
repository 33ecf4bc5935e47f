import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Drawer from "@mui/material/Drawer";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useState, type ReactNode } from "react";

interface Props {
  title: string;
  side: "left" | "right";
  width: number;
  children: ReactNode;
}

/** Below this width of the window the panels of the bench are drawers over the part. */
export const NARROW = "(max-width: 1023px)";

/** A panel beside the part; in a narrow window a drawer behind a button over it. */
export function Panel({ title, side, width, children }: Props) {
  const narrow = useMediaQuery(NARROW);
  const [open, setOpen] = useState(false);
  const left = side === "left";
  const panel = {
    component: left ? ("nav" as const) : ("aside" as const),
    "aria-label": title,
  };
  if (!narrow) {
    return (
      <Box
        {...panel}
        sx={{
          gridRow: left ? "2 / -1" : 2,
          gridColumn: left ? 1 : 3,
          overflowY: "auto",
          [left ? "borderRight" : "borderLeft"]: 1,
          borderColor: "divider",
        }}
      >
        {children}
      </Box>
    );
  }
  return (
    <>
      <Button
        variant="outlined"
        aria-expanded={open}
        onClick={() => setOpen(true)}
        sx={{
          position: "absolute",
          zIndex: 2,
          top: "50%",
          [side]: 0,
          minWidth: 0,
          px: 0.5,
          py: 1.5,
          writingMode: "vertical-rl",
          bgcolor: "background.paper",
        }}
      >
        {title}
      </Button>
      <Drawer
        anchor={side}
        open={open}
        onClose={() => setOpen(false)}
        keepMounted
        slotProps={{ paper: { sx: { width: `min(${width}px, 92vw)` }, "aria-label": title } }}
      >
        <Box {...panel}>{children}</Box>
      </Drawer>
    </>
  );
}

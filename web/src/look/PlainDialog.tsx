import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { ReactNode } from "react";

interface Props {
  title: string;
  onClose: () => void;
  narrow?: boolean;
  /** Buttons beside Close. */
  actions?: ReactNode;
  children: ReactNode;
}

/** A dialog that is open, under a title, until it is closed. */
export function PlainDialog({ title, onClose, narrow = false, actions, children }: Props) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={narrow ? "xs" : "sm"}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>{children}</DialogContent>
      <DialogActions>
        {actions}
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

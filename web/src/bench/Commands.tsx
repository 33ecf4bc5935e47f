import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import visuallyHidden from "@mui/utils/visuallyHidden";
import { useEffect, useState } from "react";

export interface Command {
  title: string;
  /** Pressed together, such as “Alt+1”; what stands behind the last + is the key. */
  keys?: string;
  run: () => void;
}

/** Everything that can be done here, found by typing, with its keys; the keys work at any time. */
export function Commands({ commands }: { commands: Command[] }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (pressed(event, OPENS)) setOpen(true);
      else {
        const meant = commands.find(({ keys }) => keys && pressed(event, keys));
        if (!meant) return;
        meant.run();
      }
      event.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [commands]);
  return (
    <Dialog
      open={open}
      onClose={() => setOpen(false)}
      fullWidth
      maxWidth="xs"
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start" } }}
    >
      <DialogTitle sx={visuallyHidden}>Commands</DialogTitle>
      <Box sx={{ p: 1.5, minHeight: 400 }}>
        <Autocomplete
          open
          disablePortal
          options={commands}
          getOptionLabel={(command) => command.title}
          getOptionKey={(command) => command.title}
          onChange={(_, command) => {
            setOpen(false);
            command?.run();
          }}
          forcePopupIcon={false}
          autoHighlight
          noOptionsText="Nothing is called so."
          slotProps={{ listbox: { sx: { maxHeight: 330 } }, paper: { variant: "outlined" } }}
          renderOption={({ key, ...props }, command) => (
            <Box component="li" key={key} {...props} sx={{ display: "flex" }}>
              <span style={{ flex: 1 }}>{command.title}</span>
              <Typography variant="caption" color="text.secondary">
                {command.keys}
              </Typography>
            </Box>
          )}
          renderInput={(params) => (
            <TextField {...params} label="What do you want to do?" autoFocus />
          )}
        />
      </Box>
    </Dialog>
  );
}

/** The keys that open the list. */
export const OPENS = "Ctrl+.";

function pressed(event: KeyboardEvent, keys: string): boolean {
  const parts = keys.split("+");
  const key = parts.pop()!;
  const digit = /^\d$/.test(key) && event.code === `Digit${key}`;
  return (
    (digit || event.key.toLowerCase() === key.toLowerCase()) &&
    (event.ctrlKey || event.metaKey) === parts.includes("Ctrl") &&
    event.altKey === parts.includes("Alt") &&
    event.shiftKey === parts.includes("Shift")
  );
}

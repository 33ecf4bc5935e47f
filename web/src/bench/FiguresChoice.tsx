import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Popover from "@mui/material/Popover";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  AS_USUAL,
  inOrder,
  isThere,
  moved,
  put,
  type Choosable,
  type FigureChoice,
} from "./figureChoice";

interface Props {
  figures: (Choosable & { title: string })[];
  choice: FigureChoice;
  onChoose: (choice: FigureChoice) => void;
}

/** Chooses the figures that stand beside every part, and their order. */
export function FiguresChoice({ figures, choice, onChoose }: Props) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        variant="text"
        aria-haspopup="dialog"
        onClick={(event) => setAt(event.currentTarget)}
        sx={{ minWidth: 0, py: 0, fontSize: "0.75rem" }}
      >
        Choose figures
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { role: "dialog", "aria-label": "Choose figures" } }}
      >
        <Stack sx={{ p: 2, width: 340 }}>
          <Stack direction="row" sx={{ alignItems: "baseline", mb: 1 }}>
            <Typography variant="h2" sx={{ flex: 1 }}>
              Figures in sight
            </Typography>
            <Button variant="text" onClick={() => onChoose(AS_USUAL)}>
              As usual
            </Button>
          </Stack>
          <Stack component="ul" sx={{ p: 0, m: 0, listStyle: "none" }}>
            {inOrder(figures, choice).map((one, index) => (
              <Stack
                key={one.name}
                component="li"
                direction="row"
                sx={{ alignItems: "center", borderBottom: 1, borderColor: "divider" }}
              >
                <FormControlLabel
                  label={one.title}
                  sx={{ flex: 1, mr: 0, "& .MuiFormControlLabel-label": { fontSize: "0.85rem" } }}
                  control={
                    <Checkbox
                      size="small"
                      checked={isThere(one, choice)}
                      onChange={(_, there) => onChoose(put(choice, one, there))}
                      sx={{ py: 0.25 }}
                    />
                  }
                />
                {([-1, 1] as const).map((by) => (
                  <Button
                    key={by}
                    variant="text"
                    aria-label={`${one.title} ${by < 0 ? "up" : "down"}`}
                    aria-disabled={index + by < 0 || index + by >= figures.length}
                    onClick={() => onChoose(moved(choice, figures, one.name, by))}
                    sx={{ minWidth: 28, p: 0 }}
                  >
                    {by < 0 ? "↑" : "↓"}
                  </Button>
                ))}
              </Stack>
            ))}
          </Stack>
        </Stack>
      </Popover>
    </>
  );
}

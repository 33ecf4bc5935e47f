import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState, type RefObject } from "react";
import { useLook } from "../look/Look";
import { keepBlob } from "../look/keepBlob";
import { csvOf, drawingOf, pictureOf, type Column } from "./files";

interface Props {
  label: string;
  root: RefObject<HTMLDivElement | null>;
  columns: Column[];
}

/** Keeps a chart as a drawing, a picture or a table. */
export function KeepChart({ label, root, columns }: Props) {
  const { colours } = useLook();
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [trouble, setTrouble] = useState(false);
  const kept =
    (suffix: string, make: (layers: SVGSVGElement[]) => Promise<Blob> | Blob) => async () => {
      setAt(null);
      const layers = [...(root.current?.querySelectorAll("svg") ?? [])];
      try {
        if (layers[0]) keepBlob(await make(layers), `${label}${suffix}`);
        setTrouble(!layers[0]);
      } catch {
        setTrouble(true);
      }
    };
  return (
    <>
      <Button
        variant="text"
        aria-haspopup="menu"
        onClick={(event) => setAt(event.currentTarget)}
        sx={{ position: "absolute", right: 0, top: -12, minWidth: 0, py: 0, fontSize: 11 }}
      >
        {trouble ? "Could not be kept" : "Keep"}
      </Button>
      <Menu anchorEl={at} open={at !== null} onClose={() => setAt(null)}>
        <MenuItem onClick={kept(".svg", (layers) => drawingOf(layers, colours.sheet))}>
          Drawing, SVG
        </MenuItem>
        <MenuItem
          onClick={kept(".png", (layers) =>
            pictureOf(drawingOf(layers, colours.sheet), layers[0]!.getBoundingClientRect()),
          )}
        >
          Picture, PNG
        </MenuItem>
        <MenuItem onClick={kept(".csv", () => new Blob([csvOf(columns)], { type: "text/csv" }))}>
          Values, CSV
        </MenuItem>
      </Menu>
    </>
  );
}

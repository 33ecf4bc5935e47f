import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useNavigate } from "react-router";
import { answer, client, newDesign, readCurve } from "../api/client";
import { FileButton } from "../bench/forms/FileButton";
import { designFromFile } from "../shelf/recipeFile";
import { TracedBody } from "./TracedBody";

/** A design that begins with a file: a recipe, a curve that a wire follows, or a scanned body. */
export function FromFile() {
  const navigate = useNavigate();
  const open = (design: { id: string }) => void navigate(`/designs/${design.id}`);
  return (
    <Box component="section" aria-label="From a file" sx={{ mb: 2 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        From a file
      </Typography>
      <Stack direction="row" useFlexGap sx={{ gap: 2, flexWrap: "wrap" }}>
        <FileButton
          label="Open a recipe"
          accept=".json"
          read={(file) => designFromFile(file)}
          onRead={open}
        />
        <FileButton
          label="Follow a curve in a table, drawing or solid"
          accept=".csv,.dxf,.svg,.step,.stp"
          read={async (file, unit) => {
            const { points, closed } = await readCurve(file, unit);
            return alongCurve(file.name, points, closed);
          }}
          onRead={open}
        />
        <TracedBody />
      </Stack>
    </Box>
  );
}

/** The starting point of a curve with these points, mm, on the shelf. */
async function alongCurve(name: string, points: number[][], closed: boolean) {
  const params = { path: { name: "curve" }, query: { unit: "mm" as const } };
  const start = await answer(client.GET("/api/starts/{name}", { params }));
  const path = { kind: "points", points, closed };
  return newDesign({ ...start, name: name.replace(/\.\w+$/, ""), path });
}

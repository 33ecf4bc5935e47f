import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { useWoundTold } from "../PartContext";
import { ValueField } from "../ValueField";
import { type Asked } from "./words";

const OWN = "a wire of its own";

export function WireChoice({ asked }: { asked: Asked }) {
  const set = useRecipe((state) => state.set);
  const part = useWoundTold();
  const { data: wires = [] } = useQuery({
    queryKey: ["wires"],
    queryFn: () => answer(client.GET("/api/springs/wires")),
    staleTime: Infinity,
  });
  const own = typeof asked.wire === "object";
  const value = own ? OWN : ((asked.wire as string | undefined) ?? "EN 10270-1 SH");
  const problem = part.problems.find((p) => p.place === "/spring/wire");
  const titles = Object.fromEntries(wires.map((wire) => [wire.name, wire.title]));
  return (
    <>
      <Autocomplete
        options={[...wires.map((wire) => wire.name), OWN]}
        value={value}
        disableClearable
        onChange={(_, name) =>
          set(
            "/spring/wire",
            name === OWN ? { strength: 1800, shear_modulus: 81500, elastic_modulus: 206000 } : name,
          )
        }
        renderOption={({ key, ...props }, name) => (
          <li key={key} {...props}>
            <Box>
              {name}
              <Typography variant="caption" color="text.secondary" sx={{ display: "block" }}>
                {titles[name] ?? "strength and moduli as typed"}
              </Typography>
            </Box>
          </li>
        )}
        renderInput={(params) => (
          <TextField
            {...params}
            label="Wire"
            error={Boolean(problem)}
            helperText={problem ? `${problem.reason}; ${problem.remedy}` : titles[value]}
          />
        )}
      />
      {own && (
        <>
          <ValueField place="/spring/wire/strength" step={10} />
          <Stack direction="row" spacing={1}>
            <ValueField place="/spring/wire/shear_modulus" step={100} />
            <ValueField place="/spring/wire/elastic_modulus" step={100} />
          </Stack>
        </>
      )}
    </>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { answer, BODY_FILES, client, readBody } from "../../api/client";
import { digits, MM } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { FileButton } from "../forms/FileButton";
import { ValueField } from "../ValueField";

const MOST = 4;

/** Bodies from files that the coil must keep clear of, where they stand, and the coil fitted around them. */
export function ReferenceBodies() {
  const { recipe, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const bodies = recipe.fit?.bodies ?? [];
  return (
    <Box component="section" aria-label="Reference bodies">
      <Typography variant="h3" gutterBottom>
        Reference bodies
      </Typography>
      <Stack spacing={1.25}>
        {bodies.map((body, index) => (
          <Box
            key={index}
            component="fieldset"
            sx={{ border: 1, borderColor: "divider", m: 0, p: 1 }}
          >
            <Typography component="legend" variant="body2" sx={{ px: 0.5, fontWeight: 650 }}>
              {body.name}
            </Typography>
            <Stack spacing={1}>
              <Stack direction="row" spacing={1}>
                {["x", "y", "z"].map((axis, k) => (
                  <ValueField
                    key={axis}
                    label={`At ${axis}`}
                    place={`/fit/bodies/${index}/at/${k}`}
                    unit={unit}
                  />
                ))}
              </Stack>
              <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
                <ValueField label="Turned" place={`/fit/bodies/${index}/turn`} unit="°" optional />
                <Typography variant="caption" sx={{ flex: 1 }}>
                  {body.mesh.faces.length} triangles
                  {(body.error ?? 0) > 0 && `, within ${digits(body.error!, 2)} mm of the file`}
                </Typography>
                <Button
                  variant="text"
                  aria-label={`Take ${body.name} out`}
                  onClick={() =>
                    set(
                      "/fit/bodies",
                      bodies.filter((_, k) => k !== index),
                    )
                  }
                >
                  Take out
                </Button>
              </Stack>
            </Stack>
          </Box>
        ))}
        {bodies.length < MOST && (
          <FileButton
            label="Bring a body in"
            accept={BODY_FILES}
            read={readBody}
            onRead={(body) => set("/fit/bodies", [...bodies, { ...body, at: [0, 0, 0] }])}
          />
        )}
        {bodies.length > 0 && recipe.path.kind === "coil" && <FitAround />}
      </Stack>
    </Box>
  );
}

function FitAround() {
  const { recipe, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const air = part.report?.values["/fit/gap"] ?? 0;
  const fit = useMutation({
    mutationFn: async () => {
      const body = { recipe, air: air * MM[recipe.unit ?? "mm"] };
      return answer(client.POST("/api/parts/fit-around", { body }));
    },
    onSuccess: (values) => Object.entries(values).forEach(([place, value]) => set(place, value)),
  });
  return (
    <>
      <Button variant="outlined" disabled={fit.isPending} onClick={() => fit.mutate()}>
        Fit the coil around, keeping {digits(air)} {recipe.unit ?? "mm"} of air
      </Button>
      {fit.error && (
        <Typography variant="body2" role="alert">
          {fit.error.message}.
        </Typography>
      )}
    </>
  );
}

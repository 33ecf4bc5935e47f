import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../api/client";
import { Choice } from "../bench/Choice";
import type { LengthUnit } from "../look/numbers";
import { CannotOpen, Opening } from "../look/Opening";
import { PageHeader } from "../look/PageHeader";
import { Picture } from "../look/Picture";
import { choicesOf, fieldOf } from "../schema/schema";
import { FromFile } from "./FromFile";

type Start = Schemas["StartOut"];

const UNITS = choicesOf(fieldOf("Recipe", "unit")) as [LengthUnit, string][];

/** What a new design begins as: one of the starting points, or a file. */
export function StartPage() {
  const [unit, setUnit] = useState<LengthUnit>("mm");
  const { data, error } = useQuery({
    queryKey: ["starts"],
    queryFn: () => answer(client.GET("/api/starts")),
    staleTime: Infinity,
  });
  if (error) return <CannotOpen error={error} />;
  if (!data) return <Opening />;
  const groups = [...new Set(data.map((start) => start.group))];
  return (
    <Box sx={{ display: "grid", gridTemplateRows: "46px auto" }}>
      <PageHeader>
        <Typography component="h1" variant="h1" sx={{ flex: 1, fontSize: "1.15rem" }}>
          What do you want to make?
        </Typography>
      </PageHeader>
      <Box component="main" sx={{ maxWidth: 1240, width: "100%", mx: "auto", px: 3, py: 2 }}>
        {groups.map((group, index) => (
          <Box component="section" key={group} aria-label={group} sx={{ mb: 2 }}>
            <Stack direction="row" sx={{ mb: 1, alignItems: "flex-end" }}>
              <Typography variant="h2" sx={{ flex: 1 }}>
                {group}
              </Typography>
              {index === 0 && (
                <Box sx={{ width: 150 }}>
                  <Choice label="Counted in" value={unit} options={UNITS} onChange={setUnit} />
                </Box>
              )}
            </Stack>
            <Box
              sx={{
                display: "grid",
                gridTemplateColumns: "repeat(auto-fill, minmax(184px, 1fr))",
                gap: 1.5,
              }}
            >
              {data
                .filter((start) => start.group === group)
                .map((start) => (
                  <StartCard key={start.key} start={start} unit={unit} />
                ))}
            </Box>
          </Box>
        ))}
        <FromFile />
      </Box>
    </Box>
  );
}

function StartCard({ start, unit }: { start: Start; unit: LengthUnit }) {
  return (
    <ButtonBase
      component={Link}
      to={`/new/${start.key}?unit=${unit}`}
      sx={{
        display: "block",
        textAlign: "left",
        border: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        color: "text.primary",
        "&:hover": { borderColor: "primary.main" },
      }}
    >
      <Stack sx={{ alignItems: "center", pt: 0.5 }}>
        <Picture src={`/api/starts/${start.key}/picture`} height={104} />
      </Stack>
      <Box sx={{ px: 1.25, pb: 1 }}>
        <Typography variant="h3" component="span" sx={{ display: "block" }}>
          {start.title}
        </Typography>
        <Typography variant="body2" component="span" color="text.secondary">
          {start.sentence}.
        </Typography>
      </Box>
    </ButtonBase>
  );
}

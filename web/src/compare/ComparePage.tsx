import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { answer, client, type AnyRecipe, type Comparison, type Design } from "../api/client";
import { useDesignHead } from "../api/useDesignHead";
import { Choice } from "../bench/Choice";
import { shown as shownAs, type LengthUnit } from "../look/numbers";
import { CannotOpen, Opening } from "../look/Opening";
import { PageHeader } from "../look/PageHeader";
import { FIGURES_TABLE } from "../look/tables";
import { VerdictLabel, type VerdictWord } from "../look/Verdict";
import { AFTER, BEFORE, Overlay3D, type Shown } from "./Overlay3D";

/** Two revisions, of one design or of two, side by side: what was changed, what it changed, and both shapes. */
export function ComparePage() {
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const { data: head, error: lost } = useDesignHead(id);
  const otherId = search.get("other") ?? id;
  const { data: other, error: otherLost } = useDesignHead(otherId);
  const error = lost ?? otherLost;
  if (error) return <CannotOpen error={error} />;
  if (!head || !other) return <Opening />;
  const after = Number(search.get("after") || head.revision);
  const usual = otherId === id ? Math.max(after - 1, 1) : other.revision;
  const before = Number(search.get("before") || usual);
  const choose = (change: Record<string, string>) =>
    setSearch({ ...Object.fromEntries(search), ...change }, { replace: true });
  return (
    <Sides
      key={`${otherId} ${before} ${after}`}
      design={head}
      other={other}
      before={before}
      after={after}
      choose={choose}
    />
  );
}

interface SidesProps {
  design: Design;
  other: Design;
  before: number;
  after: number;
  choose: (change: Record<string, string>) => void;
}

function Sides({ design, other, before, after, choose }: SidesProps) {
  const { data: old } = useRevision(other.id, before);
  const { data: now } = useRevision(design.id, after);
  const [shown, setShown] = useState<Shown>("both");
  const { data: found, error } = useQuery({
    queryKey: ["compare", other.id, before, design.id, after],
    enabled: Boolean(old && now),
    queryFn: () =>
      answer(
        client.POST("/api/compare", { body: { before: old!.recipe, after: now!.recipe } }),
      ) as Promise<Comparison>,
  });
  return (
    <Box
      component="main"
      sx={{
        height: "100dvh",
        display: "grid",
        gridTemplateColumns: "352px minmax(0, 1fr) 330px",
        gridTemplateRows: "46px minmax(0, 1fr)",
      }}
    >
      <PageHeader>
        <Typography variant="h1" sx={{ fontSize: "1.15rem", flex: 1 }} noWrap>
          What changed in {design.name}
        </Typography>
        <TakeUpAgain design={design} other={other} revision={before} recipe={old?.recipe} />
      </PageHeader>
      <Stack
        spacing={1.5}
        sx={{ p: 1.5, overflowY: "auto", borderRight: 1, borderColor: "divider" }}
      >
        <OtherDesign design={design} other={other} choose={choose} />
        <Stack direction="row" spacing={1}>
          <RevisionChoice
            label="Before"
            of={other.revision}
            value={before}
            onChange={(number) => choose({ before: number })}
          />
          <RevisionChoice
            label="After"
            of={design.revision}
            value={after}
            onChange={(number) => choose({ after: number })}
          />
        </Stack>
        {found && <Changes found={found} />}
        {error && (
          <Typography variant="body2" role="alert">
            {error.message}
          </Typography>
        )}
        {!found && !error && <Typography variant="body2">Comparing…</Typography>}
      </Stack>
      <Box sx={{ position: "relative", minWidth: 0 }}>
        {old && now && (
          <Overlay3D
            before={old.recipe as unknown as AnyRecipe}
            after={now.recipe as unknown as AnyRecipe}
            shown={shown}
          />
        )}
        <ToggleButtonGroup
          exclusive
          size="small"
          value={shown}
          onChange={(_, next: Shown | null) => next && setShown(next)}
          aria-label="Parts on show"
          sx={{ position: "absolute", top: 8, right: 10 }}
        >
          {(["before", "both", "after"] as const).map((word) => (
            <ToggleButton key={word} value={word} sx={{ py: 0.2, textTransform: "none" }}>
              {word !== "both" && (
                <Box
                  component="span"
                  sx={{
                    width: 10,
                    height: 10,
                    mr: 0.75,
                    borderRadius: "50%",
                    bgcolor: word === "before" ? BEFORE : AFTER,
                  }}
                />
              )}
              {word}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      <Box sx={{ p: 1.5, overflowY: "auto", borderLeft: 1, borderColor: "divider" }}>
        {found && <Figures found={found} unit={(now?.recipe.unit as LengthUnit) ?? "mm"} />}
      </Box>
    </Box>
  );
}

function OtherDesign({ design, other, choose }: Pick<SidesProps, "design" | "other" | "choose">) {
  const { data: shelf = [] } = useQuery({
    queryKey: ["shelf", ""],
    queryFn: () => answer(client.GET("/api/designs")),
  });
  const options = shelf
    .filter((item) => item.id !== design.id)
    .map((item) => [item.id, item.name] as const);
  return (
    <Choice
      label="Beside"
      value={other.id}
      options={[[design.id, "itself, as it was"], ...options]}
      onChange={(id) => {
        choose({ other: id, before: "" });
      }}
    />
  );
}

function RevisionChoice(props: {
  label: string;
  of: number;
  value: number;
  onChange: (number: string) => void;
}) {
  const numbers = Array.from({ length: props.of }, (_, index) => String(props.of - index));
  return (
    <Choice
      label={props.label}
      value={String(props.value)}
      options={numbers.map((number) => [number, `revision ${number}`] as const)}
      onChange={props.onChange}
    />
  );
}

/** The recipe of before becomes the newest revision; what it replaces stays as it is. */
function TakeUpAgain(props: {
  design: Design;
  other: Design;
  revision: number;
  recipe: Record<string, unknown> | undefined;
}) {
  const { design, other, revision, recipe } = props;
  const navigate = useNavigate();
  const restore = useMutation({
    mutationFn: () =>
      answer(
        client.PUT("/api/designs/{design_id}", {
          params: { path: { design_id: design.id } },
          body: { recipe: recipe as Record<string, never>, based_on: design.revision },
        }),
      ),
    onSuccess: () => navigate(`/designs/${design.id}`),
  });
  return (
    <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
      {restore.error && (
        <Typography variant="body2" role="alert">
          {restore.error.message}
        </Typography>
      )}
      {other.id === design.id && (
        <Button
          variant="outlined"
          disabled={!recipe || restore.isPending}
          onClick={() => restore.mutate()}
        >
          Take revision {revision} up again
        </Button>
      )}
      <Button variant="contained" onClick={() => navigate(`/designs/${design.id}`)}>
        Back to the bench
      </Button>
    </Stack>
  );
}

function Changes({ found }: { found: Comparison }) {
  return (
    <>
      <Typography variant="h2">Recipe</Typography>
      {found.changes.length === 0 ? (
        <Typography variant="body2">Both recipes are the same.</Typography>
      ) : (
        <Stack component="ul" spacing={0.5} sx={{ listStyle: "none", p: 0, m: 0 }}>
          {found.changes.map((change) => (
            <Typography key={change.place} component="li" variant="body2" title={change.place}>
              {change.words}
            </Typography>
          ))}
        </Stack>
      )}
      {found.problems.map((problem) => (
        <Typography key={problem.place} variant="body2" color="error">
          {problem.place}: {problem.reason}
        </Typography>
      ))}
    </>
  );
}

function Figures({ found, unit }: { found: Comparison; unit: LengthUnit }) {
  const [before, after] = found.verdicts as unknown as [VerdictWord, VerdictWord];
  return (
    <Stack spacing={1.5}>
      <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
        <VerdictLabel verdict={before} />
        <span aria-hidden="true">→</span>
        <VerdictLabel verdict={after} />
      </Stack>
      {found.checks.map((check) => (
        <Box key={check.id}>
          <Typography variant="body2">{check.title}</Typography>
          <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
            {[check.before, check.after].map((verdict, index) =>
              verdict ? (
                <VerdictLabel key={index} verdict={verdict as VerdictWord} />
              ) : (
                <Typography key={index} variant="body2" color="text.secondary">
                  not asked
                </Typography>
              ),
            )}
          </Stack>
        </Box>
      ))}
      <Box
        component="table"
        aria-label="Figures that changed"
        sx={{ ...FIGURES_TABLE, "& td + td": { textAlign: "right" } }}
      >
        <tbody>
          {found.figures.map((row) => {
            const old = shownAs(row.before, row.unit, unit);
            const now = shownAs(row.after, row.unit, unit);
            return (
              <tr key={row.name}>
                <td>
                  {row.title}
                  <Typography variant="caption" color="text.secondary">
                    {" "}
                    {now.unit || old.unit}
                  </Typography>
                </td>
                <td>{old.number}</td>
                <Box component="td" sx={{ fontWeight: 600, pl: 1 }}>
                  {now.number}
                </Box>
                <Box component="td" sx={{ pl: 1, color: "text.secondary" }}>
                  {change(row, unit)}
                </Box>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </Stack>
  );
}

function change(row: Comparison["figures"][number], unit: LengthUnit): string {
  if (row.before === null || row.after === null) return "";
  const off = shownAs(row.after - row.before, row.unit, unit).number;
  return row.after > row.before ? `+${off}` : off;
}

function useRevision(id: string, number: number) {
  return useQuery({
    queryKey: ["design", id, number],
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/revisions/{number}", {
          params: { path: { design_id: id, number } },
        }),
      ),
    refetchOnWindowFocus: false,
    staleTime: Infinity,
  });
}

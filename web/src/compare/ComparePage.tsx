import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import {
  answer,
  client,
  holdAgainst,
  type AnyRecipe,
  type Comparison,
  type Design,
  type Held,
} from "../api/client";
import { useDesignHead } from "../api/useDesignHead";
import { Choice } from "../bench/Choice";
import { FileButton } from "../bench/forms/FileButton";
import { MM, shown as shownAs, type LengthUnit } from "../look/numbers";
import { CannotOpen, Opening } from "../look/Opening";
import { FIGURES_TABLE } from "../look/tables";
import { VerdictLabel, type VerdictWord } from "../look/Verdict";
import { BesideBench } from "../beside/BesideBench";
import { BothShapes } from "./BothShapes";
import { HeldWords } from "./HeldAgainst";

/** Two revisions, of one design or of two, or a revision and a body from a file, side by side: what was changed, what it changed,
 * and both shapes. */
export function ComparePage() {
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const { data: head, error: lost } = useDesignHead(id);
  const [given, setGiven] = useState<Given | null>(null);
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
      given={given}
      onGiven={setGiven}
    />
  );
}

/** A body's file, and its unit where it does not say. */
interface Given {
  file: File;
  unit: string;
}

interface SidesProps {
  design: Design;
  other: Design;
  before: number;
  after: number;
  choose: (change: Record<string, string>) => void;
  given: Given | null;
  onGiven: (given: Given | null) => void;
}

function Sides({ design, other, before, after, choose, given, onGiven }: SidesProps) {
  const { data: old } = useRevision(other.id, before);
  const { data: now } = useRevision(design.id, after);
  const queries = useQueryClient();
  const keyOf = (one: Given | null) => ["held", one?.file.name, one?.unit, design.id, after];
  const { data: held = null, error: unheld } = useQuery({
    queryKey: keyOf(given),
    enabled: Boolean(given && now),
    staleTime: Infinity,
    queryFn: () => holdAgainst(given!.file, given!.unit, now!.recipe),
  });
  const { data: found, error } = useQuery({
    queryKey: ["compare", other.id, before, design.id, after],
    enabled: Boolean(old && now),
    queryFn: () =>
      answer(
        client.POST("/api/compare", { body: { before: old!.recipe, after: now!.recipe } }),
      ) as Promise<Comparison>,
  });
  const unit = (now?.recipe.unit as LengthUnit) ?? "mm";
  const trouble = given ? unheld : error;
  return (
    <BesideBench
      design={design}
      title="Compare"
      left={
        <>
          {!given && <OtherDesign design={design} other={other} choose={choose} />}
          <Stack direction="row" spacing={1}>
            {!given && (
              <RevisionChoice
                label="Before"
                of={other.revision}
                value={before}
                onChange={(number) => choose({ before: number })}
              />
            )}
            <RevisionChoice
              label={given ? "This design" : "After"}
              of={design.revision}
              value={after}
              onChange={(number) => choose({ after: number })}
            />
          </Stack>
          {!given && now && (
            <FileButton
              label="Hold it against a body from a file"
              accept=".stl,.glb,.3mf,.step,.stp"
              read={async (file, unit) => {
                const one = { file, unit };
                queries.setQueryData(keyOf(one), await holdAgainst(file, unit, now.recipe));
                return one;
              }}
              onRead={onGiven}
            />
          )}
          {held && (
            <HeldWords held={held} unit={unit} onLeave={() => onGiven(null)}>
              {held.closed && (
                <Save
                  design={design}
                  recipe={expecting(design.recipe, held, unit)}
                  words="Expect its volume on the bench"
                />
              )}
            </HeldWords>
          )}
          {!given && found && <Changes found={found} />}
          {!given && other.id === design.id && before !== design.revision && (
            <Save design={design} recipe={old?.recipe} words={`Take revision ${before} up again`} />
          )}
          {trouble && (
            <Typography variant="body2" role="alert">
              {trouble.message}
            </Typography>
          )}
          {!trouble && !(given ? held : found) && (
            <Typography variant="body2">Comparing…</Typography>
          )}
        </>
      }
      right={
        held ? (
          <FiguresTable
            rows={held.figures}
            unit={unit}
            label="Figures of both"
            heads={["body", "design"]}
          />
        ) : (
          !given && found && <Figures found={found} unit={unit} />
        )
      }
    >
      {old && now && (!given || held) ? (
        <BothShapes
          before={held?.body ?? (old.recipe as unknown as AnyRecipe)}
          after={now.recipe as unknown as AnyRecipe}
          names={held ? [held.body.name ?? "body", "this design"] : ["before", "after"]}
        />
      ) : (
        <Box />
      )}
    </BesideBench>
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

/** Makes a recipe the newest revision, and opens it; what it replaces stays as it is. */
function Save(props: {
  design: Design;
  recipe: Record<string, unknown> | undefined;
  words: string;
}) {
  const { design, recipe, words } = props;
  const navigate = useNavigate();
  const save = useMutation({
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
    <>
      {save.error && (
        <Typography variant="body2" role="alert">
          {save.error.message}
        </Typography>
      )}
      <Button variant="outlined" disabled={!recipe || save.isPending} onClick={() => save.mutate()}>
        {words}
      </Button>
    </>
  );
}

/** The recipe with the body's volume expected of it. */
function expecting(
  recipe: Design["recipe"],
  held: Held,
  unit: LengthUnit,
): Record<string, unknown> {
  const volume = held.figures.find((row) => row.name === "volume")!.before!;
  const value = Number((volume / MM[unit] ** 3).toPrecision(7));
  const known = recipe as { expected?: Record<string, unknown> };
  return { ...recipe, expected: { ...known.expected, volume: { value } } };
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
      <FiguresTable
        rows={found.figures}
        unit={unit}
        label="Figures that changed"
        heads={["before", "after"]}
      />
    </Stack>
  );
}

function FiguresTable(props: {
  rows: Held["figures"];
  unit: LengthUnit;
  label: string;
  heads: [string, string];
}) {
  const { rows, unit, label, heads } = props;
  return (
    <Box
      component="table"
      aria-label={label}
      sx={{ ...FIGURES_TABLE, "& td + td, & th": { textAlign: "right" } }}
    >
      <thead>
        <tr>
          <th />
          {heads.map((words) => (
            <Box component="th" scope="col" key={words}>
              {words}
            </Box>
          ))}
          <th scope="col">change</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
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

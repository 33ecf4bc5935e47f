import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import {
  answer,
  client,
  holdAgainst,
  type AnyRecipe,
  type Comparison,
  type Design,
  type Held,
  BODY_FILES,
} from "../api/client";
import { useRevision } from "../api/revisions";
import { Choice } from "../bench/Choice";
import { FileButton } from "../bench/forms/FileButton";
import { MM, type LengthUnit } from "../look/numbers";
import { BesideBench } from "../beside/BesideBench";
import { BothShapes } from "./BothShapes";
import { HeldWords } from "./HeldAgainst";
import { Changes } from "./Changes";
import { Figures, FiguresTable } from "./FigureChanges";

/** A body's file, and its unit where it does not say. */
export interface Given {
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

export function Sides({ design, other, before, after, choose, given, onGiven }: SidesProps) {
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
  const bodyName = given?.file.name.replace(/\.\w+$/, "") ?? "body";
  const alone = other.id === design.id && before === after;
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
              accept={BODY_FILES}
              read={async (file, unit) => {
                const one = { file, unit };
                queries.setQueryData(keyOf(one), await holdAgainst(file, unit, now.recipe));
                return one;
              }}
              onRead={onGiven}
            />
          )}
          {held && (
            <HeldWords held={held} name={bodyName} unit={unit} onLeave={() => onGiven(null)}>
              {held.closed && (
                <Save
                  design={design}
                  recipe={expecting(design.recipe, held, unit)}
                  words="Expect its volume on the bench"
                />
              )}
            </HeldWords>
          )}
          {!given && found && alone && (
            <Typography variant="body2">
              This design has one revision so far. Choose another design, or a body from a file.
            </Typography>
          )}
          {!given && found && !alone && <Changes found={found} />}
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
          before={held ? held.body : (old.recipe as unknown as AnyRecipe)}
          after={now.recipe as unknown as AnyRecipe}
          names={held ? [bodyName, "this design"] : ["before", "after"]}
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

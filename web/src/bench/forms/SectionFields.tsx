import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Recipe } from "../../api/client";
import { useRecipe } from "../../state/bench";
import { at } from "../../state/pointer";
import { usePartContext, useUnit } from "../PartContext";
import { ValueField } from "../ValueField";
import { DrawingButton } from "./DrawingButton";
import { Choice } from "../Choice";
import { ChoiceField, KindButton, KindChoice, KindFields } from "./KindFields";
import { Rows } from "./Rows";

type Section = Recipe["section"];

interface Props {
  /** JSON pointer of the section. */
  place: string;
  /** About how wide a new section is, in the recipe's unit. */
  size: number;
  label: string;
}

/** A section: its kind, its numbers, and what is drawn of some kinds. */
export function SectionFields({ place, size, label }: Props) {
  const section = useRecipe((state) => at(state.recipe, place)) as Section;
  const set = useRecipe((state) => state.set);
  return (
    <Stack spacing={1.25}>
      <KindChoice
        label={label}
        place={place}
        size={size}
        onNew={(fresh) =>
          set(place, {
            ...fresh,
            ...(section.plane && { plane: section.plane }),
            ...(section.rides_at && { rides_at: section.rides_at }),
          })
        }
      />
      <KindFields place={place} />
      {"loops" in section && <Loops place={place} size={size} section={section} />}
      {"sections" in section && <BlendList place={place} size={size} section={section} />}
    </Stack>
  );
}

interface HolesProps {
  /** JSON pointer of the section. */
  place: string;
  size: number;
  onRemove: (index: number) => void;
}

/** The holes that a section has all the way through. */
function Holes({ place, size, onRemove }: HolesProps) {
  const { recipe, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const holes = (at(recipe, `${place}/holes`) ?? []) as { centre?: unknown }[];
  return (
    <>
      {holes.map((hole, index) => (
        <Group key={index} title={`Hole ${index + 1}`} onRemove={() => onRemove(index)}>
          <SectionFields
            place={`${place}/holes/${index}`}
            size={size / 3}
            label="Shape of the hole"
          />
          {hole.centre ? (
            <Stack direction="row" spacing={1}>
              <ValueField
                label="Centre across"
                name={`Hole ${index + 1}, centre across`}
                place={`${place}/holes/${index}/centre/0`}
                unit={unit}
              />
              <ValueField
                label="Centre up"
                name={`Hole ${index + 1}, centre up`}
                place={`${place}/holes/${index}/centre/1`}
                unit={unit}
              />
            </Stack>
          ) : (
            <Button variant="text" onClick={() => set(`${place}/holes/${index}/centre`, [0, 0])}>
              Move it off the centre
            </Button>
          )}
        </Group>
      ))}
    </>
  );
}

/** Holes all the way through, and paint on the edges. */
export function SectionExtras({ place, size }: { place: string; size: number }) {
  const { recipe, part } = usePartContext();
  const section = at(recipe, place) as Section;
  const set = useRecipe((state) => state.set);
  const holes = section.holes ?? [];
  const paint = section.paint ?? [];
  const edges = part.report?.section.edges.length ?? 0;
  const drawn = "loops" in section || "sections" in section;
  return (
    <Stack spacing={1.25}>
      <Holes
        place={place}
        size={size}
        onRemove={(index) => set(`${place}/holes`, without(holes, index))}
      />
      {paint.map((band, index) => (
        <Stack key={index} direction="row" spacing={1} sx={{ alignItems: "center" }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            Band on edge
          </Typography>
          <select
            aria-label={`Edge of band ${index + 1}`}
            value={band.edge}
            onChange={(event) => set(`${place}/paint/${index}/edge`, Number(event.target.value))}
          >
            {Array.from({ length: Math.max(edges, band.edge + 1) }, (_, i) => (
              <option key={i} value={i}>
                {i + 1}
              </option>
            ))}
          </select>
          <input
            type="color"
            aria-label={`Colour of band ${index + 1}`}
            value={band.colour}
            onChange={(event) => set(`${place}/paint/${index}/colour`, event.target.value)}
          />
          <button
            type="button"
            className="plain-action"
            aria-label={`Remove band ${index + 1}`}
            onClick={() =>
              set(
                `${place}/paint`,
                paint.filter((_, i) => i !== index),
              )
            }
          >
            ✕
          </button>
        </Stack>
      ))}
      <Stack direction="row" spacing={1}>
        {!drawn && (
          <KindButton
            name="RoundHole"
            size={size / 3}
            onNew={(hole) => set(`${place}/holes`, [...holes, { ...hole, centre: [0, 0] }])}
          >
            Add a hole
          </KindButton>
        )}
        {!("sections" in section) && (
          <Button
            variant="text"
            onClick={() =>
              set(`${place}/paint`, [
                ...paint,
                { edge: Math.min(paint.length, Math.max(edges - 1, 0)), colour: "#2f6f8f" },
              ])
            }
          >
            Paint an edge
          </Button>
        )}
      </Stack>
    </Stack>
  );
}

const without = <T,>(list: readonly T[], index: number) => list.filter((_, i) => i !== index);

/** A part of a form with its own title, which can be taken out. */
export function Group(props: { title: string; onRemove?: () => void; children: ReactNode }) {
  return (
    <Stack
      component="section"
      aria-label={props.title}
      spacing={1}
      sx={{ borderLeft: 2, borderColor: "divider", pl: 1 }}
    >
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h3">
          {props.title}
        </Typography>
        {props.onRemove && (
          <button
            type="button"
            className="plain-action"
            onClick={props.onRemove}
            aria-label={`Remove ${props.title.toLowerCase()}`}
          >
            remove
          </button>
        )}
      </Stack>
      {props.children}
    </Stack>
  );
}

function Loops(props: {
  place: string;
  size: number;
  section: Extract<Section, { kind: "free" }>;
}) {
  const { place, section, size } = props;
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  return (
    <Stack spacing={1.25}>
      <DrawingButton
        label="Read a DXF or SVG drawing"
        onRead={({ loops, plane }) =>
          loops.length && set(place, { ...section, loops, ...(plane && { plane }) })
        }
      />
      {section.loops.map((loop, index) => {
        const here = `${place}/loops/${index}`;
        const plain = loop.points.every((p) => p.length < 6) && loop.points.length <= 40;
        return (
          <Group
            key={index}
            title={index === 0 ? "Outer loop" : `Hole ${index}`}
            onRemove={
              index > 0
                ? () =>
                    set(
                      `${place}/loops`,
                      section.loops.filter((_, i) => i !== index),
                    )
                : undefined
            }
          >
            <Stack direction="row" spacing={1}>
              <ChoiceField place={`${here}/ease`} label="Between the points" />
              {index === 0 && (
                <Choice
                  label="Is"
                  value={loop.closed === false ? "open" : "closed"}
                  options={[
                    ["closed", "closed"],
                    ["open", "an open line"],
                  ]}
                  onChange={(v) => set(`${here}/closed`, v === "closed")}
                />
              )}
            </Stack>
            {plain ? (
              <Rows
                title={index === 0 ? "Points" : `Points of hole ${index}`}
                place={`${here}/points`}
                columns={[
                  { label: "across", unit },
                  { label: "up", unit },
                  { label: "bulge", unit: "", step: 0.05 },
                ]}
                least={2}
                next={(rows) => {
                  const last = rows[rows.length - 1] ?? [0, 0];
                  return [Number(last[0]) + Number((size / 4).toPrecision(2)), Number(last[1])];
                }}
              />
            ) : (
              <Typography variant="body2" color="text.secondary">
                {loop.points.length} points with curves, from a drawing. Read it again to change it.
              </Typography>
            )}
          </Group>
        );
      })}
    </Stack>
  );
}

function BlendList(props: {
  place: string;
  size: number;
  section: Extract<Section, { kind: "blend" }>;
}) {
  const { place, section, size } = props;
  const set = useRecipe((state) => state.set);
  const stations = section.sections;
  const holeAll = (change: (holes: object[]) => object[]) =>
    set(
      `${place}/sections`,
      stations.map((station) => ({
        ...station,
        section: { ...station.section, holes: change(station.section.holes ?? []) },
      })),
    );
  return (
    <Stack spacing={1.25}>
      {stations.map((_, index) => (
        <Group
          key={index}
          title={`Section ${index + 1}`}
          onRemove={
            stations.length > 2
              ? () =>
                  set(
                    `${place}/sections`,
                    stations.filter((__, i) => i !== index),
                  )
              : undefined
          }
        >
          <Stack direction="row" spacing={1}>
            <ValueField
              name={`Place of section ${index + 1}`}
              place={`${place}/sections/${index}/at`}
            />
            <ValueField
              name={`Turn of section ${index + 1}`}
              place={`${place}/sections/${index}/turn`}
            />
          </Stack>
          <SectionFields place={`${place}/sections/${index}/section`} size={size} label="Shape" />
          <Holes
            place={`${place}/sections/${index}/section`}
            size={size}
            onRemove={(hole) => holeAll((holes) => without(holes, hole))}
          />
        </Group>
      ))}
      <KindButton
        name="Round"
        size={size}
        onNew={(fresh) => {
          const last = Number(stations[stations.length - 1]?.at ?? 1);
          const before = Number(stations[stations.length - 2]?.at ?? 0);
          set(`${place}/sections`, [
            ...stations.slice(0, -1),
            { at: (before + last) / 2, section: { ...fresh, holes: stations[0]?.section.holes } },
            ...stations.slice(-1),
          ]);
        }}
      >
        Add a section between
      </KindButton>
      <KindButton
        name="RoundHole"
        size={size / 3}
        onNew={(hole) => holeAll((holes) => [...holes, { ...hole, centre: [0, 0] }])}
      >
        Add a hole through all of them
      </KindButton>
    </Stack>
  );
}

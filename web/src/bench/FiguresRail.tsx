import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Popover from "@mui/material/Popover";
import Stack from "@mui/material/Stack";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Said, Schemas } from "../api/client";
import { Formula } from "../look/Formula";
import { shown, type LengthUnit } from "../look/numbers";
import { VerdictLabel, VerdictMark } from "../look/Verdict";
import { useProofs } from "../verification/useProofs";
import { useBench, useTold, useUnit } from "./PartContext";
import { apart, expectation } from "./expected";
import { FiguresChoice } from "./FiguresChoice";
import { inOrder, isThere, keepChoice, keptChoice, type FigureChoice } from "./figureChoice";

type Shown = Omit<Schemas["Told"], "key" | "value"> & {
  name: string;
  value: number;
  usual: boolean;
};

/** The figures that may stand beside the part: those that are asked of it first, its own, and those of the
 * spring that it is, which usually do not. */
function figuresOf(report: Said & { spring?: Schemas["SpringOut"] | null }): Shown[] {
  const own = Object.entries(report.why).map(([name, { rail, ...why }]) => ({
    ...why,
    name,
    value: report.figures[name],
    usual: rail !== "never",
  }));
  const first = report.headline.map(({ key, ...told }) => ({
    ...told,
    name: `first-${key}`,
    usual: true,
  }));
  const known = report.headline.map(({ key }) => key);
  const spring = (report.spring?.figures ?? [])
    .filter(({ key }) => !known.includes(key))
    .map(({ key, ...told }) => ({ ...told, name: `spring-${key}`, usual: false }));
  return [...first, ...own, ...spring].filter((one): one is Shown => one.value != null);
}

/** The verdict and the figures, always in sight; each figure says where it comes from. */
export function FiguresRail() {
  const part = useTold();
  const own = useUnit();
  const [eye, setEye] = useState<LengthUnit | null>(null);
  const unit = eye ?? own;
  const [asked, setAsked] = useState<{ figure: Shown; anchor: HTMLElement } | null>(null);
  const report = part.report;
  const why = asked?.figure;
  const [choice, setChoice] = useState(keptChoice);
  const figures = report ? figuresOf(report) : [];
  const choose = (next: FigureChoice) => {
    setChoice(next);
    keepChoice(next);
  };
  return (
    <Stack component="section" aria-label="Figures" sx={{ minHeight: 0 }}>
      <Verdict />
      <Stack
        direction="row"
        sx={{ justifyContent: "space-between", alignItems: "center", mb: 0.5 }}
      >
        <FiguresChoice figures={figures} choice={choice} onChoose={choose} />
        <Eye unit={unit} own={own} onChange={setEye} />
      </Stack>
      {report &&
        inOrder(figures, choice)
          .filter((one) => isThere(one, choice))
          .map((one) => {
            const { name, title } = one;
            const figure = shown(one.value, one.unit, unit);
            const expected = expectation(report, name);
            return (
              <ButtonBase
                key={name}
                onClick={(event) => setAsked({ figure: one, anchor: event.currentTarget })}
                aria-haspopup="dialog"
                title={`Why ${title.toLowerCase()} is this`}
                data-figure={name}
                sx={{
                  display: "grid",
                  gridTemplateColumns: "1fr auto 38px",
                  columnGap: 0.5,
                  textAlign: "left",
                  py: 0.45,
                  borderBottom: 1,
                  borderColor: "divider",
                  fontSize: "0.85rem",
                  fontFamily: "fontFamily",
                  fontVariantNumeric: "tabular-nums",
                  "&:hover": { bgcolor: "action.hover" },
                }}
              >
                <span>{title}</span>{" "}
                <Box component="span" sx={{ textAlign: "right", fontWeight: 600 }}>
                  {figure.number}
                </Box>{" "}
                <Box component="span" sx={{ color: "text.secondary" }}>
                  {figure.unit}
                </Box>
                {expected && (
                  <Stack
                    component="span"
                    direction="row"
                    spacing={0.5}
                    sx={{
                      gridColumn: "1 / -1",
                      alignItems: "center",
                      justifyContent: "flex-end",
                      fontSize: "0.75rem",
                    }}
                  >
                    <VerdictMark verdict={expected.verdict} size={9} />
                    <span>{apart(expected, unit)}</span>
                  </Stack>
                )}
              </ButtonBase>
            );
          })}
      <Popover
        open={Boolean(why)}
        anchorEl={asked?.anchor}
        onClose={() => setAsked(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
      >
        {why && (
          <Stack spacing={0.75} sx={{ p: 2, maxWidth: 340 }}>
            <Typography variant="h2">{why.title}</Typography>
            <Typography variant="body1" sx={{ fontFamily: "serif", fontSize: "1.05rem" }}>
              <Formula {...why} />
            </Typography>
            <Typography variant="body2">From: {why.inputs}.</Typography>
            <Typography variant="body2" color="text.secondary">
              Source: {why.source}.
            </Typography>
            <Verified figure={why.name.replace(/^(first|spring)-/, "")} />
          </Stack>
        )}
      </Popover>
    </Stack>
  );
}

function Verdict() {
  const { part, recipe } = useBench();
  const verdict = part.problems.length ? "unusable" : part.report?.verdict;
  return (
    <Box
      sx={{ pb: 1, minHeight: 34 }}
      aria-live="polite"
      aria-busy={part.answered !== recipe}
      data-testid="verdict"
    >
      {verdict && <VerdictLabel verdict={verdict} big />}
    </Box>
  );
}

/** How a figure was verified, with the way to its rows. */
function Verified({ figure }: { figure: string }) {
  const { data } = useProofs(figure);
  const rows = data?.families.flatMap((family) => family.rows) ?? [];
  if (!rows.length) return null;
  const titles = data!.families.map((family) => family.title.split(/[,:]/)[0]!.toLowerCase());
  return (
    <Typography variant="body2">
      Verified by{" "}
      <Link to={`/verification?figure=${figure}`} target="_blank">
        {rows.length} {rows.length === 1 ? "case" : "cases"}
      </Link>
      : {titles.join(", ")}.
    </Typography>
  );
}

/** The unit of length that figures are shown in, for the eye alone. */
function Eye(props: { unit: LengthUnit; own: LengthUnit; onChange: (unit: LengthUnit) => void }) {
  const { unit, own, onChange } = props;
  const units: LengthUnit[] = [own, own === "in" ? "mm" : "in"];
  return (
    <ToggleButtonGroup
      size="small"
      exclusive
      aria-label="Figures shown in"
      value={unit}
      onChange={(_, next: LengthUnit | null) => next && onChange(next)}
    >
      {units.map((one) => (
        <ToggleButton
          key={one}
          value={one}
          aria-label={`Figures in ${one}`}
          sx={{ py: 0, px: 1, textTransform: "none" }}
        >
          {one}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

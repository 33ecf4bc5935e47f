import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Popover from "@mui/material/Popover";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Said } from "../api/client";
import { shown } from "../look/numbers";
import { VerdictLabel, VerdictMark } from "../look/Verdict";
import { useBench } from "./PartContext";
import { apart, expectation } from "./expected";

/** The figures that stand beside the part, in their order. */
function shownHere(report: Said): string[] {
  return Object.entries(report.why)
    .filter(
      ([name, { rail }]) => rail === "always" || (rail === "there" && report.figures[name] != null),
    )
    .map(([name]) => name);
}

/** The verdict and the figures, always in sight; each figure says where it comes from. */
export function FiguresRail() {
  const { part, recipe, unit } = useBench();
  const [asked, setAsked] = useState<{ name: string; anchor: HTMLElement } | null>(null);
  const report = part.report;
  const verdict = part.problems.length ? "unusable" : report?.verdict;
  const why = asked && report?.why[asked.name];
  return (
    <Stack component="section" aria-label="Figures" sx={{ minHeight: 0 }}>
      <Box
        sx={{ pb: 1, minHeight: 34 }}
        aria-live="polite"
        aria-busy={part.answered !== recipe}
        data-testid="verdict"
      >
        {verdict && <VerdictLabel verdict={verdict} big />}
      </Box>
      {report &&
        shownHere(report).map((name) => {
          const { title, unit: base } = report.why[name]!;
          const figure = shown(report.figures[name] ?? null, base, unit);
          const expected = expectation(report, name);
          return (
            <ButtonBase
              key={name}
              onClick={(event) => setAsked({ name, anchor: event.currentTarget })}
              aria-haspopup="dialog"
              title={`Why ${title.toLowerCase()} is this`}
              data-figure={name}
              sx={{
                display: "grid",
                gridTemplateColumns: "1fr auto 30px",
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
              {why.formula}
            </Typography>
            <Typography variant="body2">From: {why.inputs}.</Typography>
            <Typography variant="body2" color="text.secondary">
              Source: {why.source}.
            </Typography>
          </Stack>
        )}
      </Popover>
    </Stack>
  );
}

import Accordion from "@mui/material/Accordion";
import AccordionDetails from "@mui/material/AccordionDetails";
import AccordionSummary from "@mui/material/AccordionSummary";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { memo, type ReactNode } from "react";
import { useLook } from "../look/Look";
import { VerdictMark, type VerdictWord } from "../look/Verdict";
import { useDesk } from "../state/bench";
import { usePartContext, useTold } from "./PartContext";
import { checksSentence } from "./sentences";
import { weighSentence } from "./expected";
import { LoadStep } from "./spring/LoadStep";
import { AlongStep } from "./steps/AlongStep";
import { ChecksStep } from "./steps/ChecksStep";
import { EndsStep } from "./steps/EndsStep";
import { FitStep } from "./steps/FitStep";
import { PathStep } from "./steps/PathStep";
import { SectionStep } from "./steps/SectionStep";
import { SolidStep } from "./steps/SolidStep";
import { StanceStep } from "./steps/StanceStep";
import { TitleStep, titleSentence } from "./steps/TitleStep";
import { WeighStep } from "./steps/WeighStep";
import { WiresStep } from "./steps/WiresStep";
import { WOUND_STEPS } from "./stepTitles";

export interface StepRow {
  id: string;
  title: string;
  sentence: string;
  body: ReactNode;
  verdict?: VerdictWord | undefined;
  /** JSON pointers of the faults that belong to this step begin with one of these. */
  places: string[];
}

/** The steps in the order of the work, each folded to the sentence that says what it holds. */
export function Steps() {
  const { recipe, part } = usePartContext();
  const solid = useDesk((state) => state.solid);
  const { words } = part;
  const steps: StepRow[] = [
    {
      id: "fit",
      title: WOUND_STEPS.fit,
      sentence: words.fit ?? "",
      body: <FitStep />,
      places: ["/fit", "/variables", "/unit"],
    },
    {
      id: "path",
      title: WOUND_STEPS.path,
      sentence: words.path ?? "",
      body: <PathStep />,
      places: ["/path"],
    },
    {
      id: "section",
      title: WOUND_STEPS.section,
      sentence: words.section ?? "",
      body: <SectionStep />,
      places: ["/section"],
    },
    {
      id: "stance",
      title: WOUND_STEPS.stance,
      sentence: words.stance ?? "",
      body: <StanceStep />,
      places: ["/stance"],
    },
    {
      id: "along",
      title: WOUND_STEPS.along,
      sentence: words.along ?? "",
      body: <AlongStep />,
      places: ["/along"],
    },
    {
      id: "ends",
      title: WOUND_STEPS.ends,
      sentence: words.ends ?? "",
      body: <EndsStep />,
      places: ["/ends", "/path/span", "/path/legs"],
    },
    {
      id: "wires",
      title: WOUND_STEPS.wires,
      sentence: words.wires ?? "",
      body: <WiresStep />,
      places: ["/strands", "/wires"],
    },
    {
      id: "load",
      title: WOUND_STEPS.load,
      sentence: words.load ?? "",
      body: <LoadStep />,
      places: ["/spring"],
    },
    {
      id: "checks",
      title: WOUND_STEPS.checks,
      sentence: checksSentence(part.report),
      body: <ChecksStep />,
      verdict: part.report?.verdict,
      places: [],
    },
    {
      id: "weigh",
      title: WOUND_STEPS.weigh,
      sentence: weighSentence(recipe, part.problems.length ? null : part.report),
      body: <WeighStep />,
      places: ["/material", "/expected"],
    },
    {
      id: "title",
      title: WOUND_STEPS.title,
      sentence: titleSentence(recipe),
      body: <TitleStep />,
      places: ["/title_block"],
    },
    {
      id: "solid",
      title: WOUND_STEPS.solid,
      sentence: solid ?? "not built yet",
      body: <SolidStep />,
      places: [],
    },
  ];
  return <StepList steps={steps} />;
}

/** Steps folded to their sentences; one is open. */
export function StepList({ steps }: { steps: StepRow[] }) {
  const { problems } = useTold();
  const open = useDesk((state) => state.step);
  return steps.map(({ places, verdict, ...step }) => {
    const faulty = problems.some((p) => places.some((place) => p.place.startsWith(place)));
    return (
      <Step key={step.id} {...step} open={open === step.id} mark={faulty ? "unusable" : verdict} />
    );
  });
}

interface StepProps extends Pick<StepRow, "id" | "title" | "sentence" | "body"> {
  open: boolean;
  mark: VerdictWord | undefined;
}

const Step = memo(function Step({ id, title, sentence, body, open, mark }: StepProps) {
  const openStep = useDesk((state) => state.openStep);
  const { colours } = useLook();
  return (
    <Accordion
      expanded={open}
      onChange={(_, wanted) => openStep(wanted ? id : null)}
      disableGutters
      square
      slotProps={{
        heading: { component: "h2" },
        transition: { unmountOnExit: id !== "solid", timeout: 120 },
      }}
      sx={{
        bgcolor: open ? colours.sheet : "transparent",
        borderBottom: 1,
        borderColor: "divider",
        "&:before": { display: "none" },
      }}
    >
      <AccordionSummary
        id={`step-${id}`}
        aria-controls={`step-${id}-body`}
        sx={{
          minHeight: 44,
          px: 1.5,
          "& .MuiAccordionSummary-content": { my: 0.75, minWidth: 0 },
        }}
      >
        <Box
          component="span"
          aria-hidden="true"
          sx={{
            width: 9,
            flex: "none",
            mr: 1.25,
            borderLeft: `3px solid ${open ? colours.copper : "transparent"}`,
          }}
        />
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Typography
            variant="h2"
            component="span"
            sx={{ display: "flex", alignItems: "center", gap: 0.75 }}
          >
            {title}
            {mark && <VerdictMark verdict={mark} />}
          </Typography>
          <Typography
            variant="body2"
            color="text.secondary"
            component="span"
            noWrap={!open}
            title={sentence}
            sx={{ display: "block" }}
          >
            {sentence}
          </Typography>
        </Box>
      </AccordionSummary>
      <AccordionDetails sx={{ px: 1.5, pt: 1, pb: 2 }}>{body}</AccordionDetails>
    </Accordion>
  );
});

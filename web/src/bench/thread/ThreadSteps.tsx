import { useDesk } from "../../state/bench";
import { weighSentence } from "../expected";
import { useThreadContext } from "../PartContext";
import { checksSentence } from "../sentences";
import { StepList, type StepRow } from "../Steps";
import { ChecksStep } from "../steps/ChecksStep";
import { SolidStep } from "../steps/SolidStep";
import { TitleStep, titleSentence } from "../steps/TitleStep";
import { WeighStep } from "../steps/WeighStep";
import { ThreadStep } from "./ThreadStep";
import { HostStep } from "./HostStep";
import { RunStep } from "./RunStep";
import { MateStep } from "./MateStep";
import { JointStep } from "./JointStep";
import { GaugingStep } from "./GaugingStep";
import { THREAD_STEPS } from "../stepTitles";

/** The steps of a threaded part in the order of the work. */
export function ThreadSteps() {
  const { recipe, part } = useThreadContext();
  const solid = useDesk((state) => state.solid);
  const { words } = part;
  const steps: StepRow[] = [
    {
      id: "thread",
      title: THREAD_STEPS.thread,
      sentence: words.thread ?? "",
      body: <ThreadStep />,
      places: ["/thread/designation", "/thread/form", "/thread/diameter", "/thread/pitch"],
    },
    {
      id: "host",
      title: THREAD_STEPS.host,
      sentence: words.host ?? "",
      body: <HostStep />,
      places: ["/host", "/use", "/unit", "/thread/side"],
    },
    {
      id: "ends",
      title: THREAD_STEPS.ends,
      sentence: words.ends ?? "",
      body: <RunStep />,
      places: ["/thread/at", "/thread/length", "/thread/start", "/thread/end"],
    },
    {
      id: "mate",
      title: THREAD_STEPS.mate,
      sentence: words.mate ?? "",
      body: <MateStep />,
      places: ["/mate", "/thread/size", "/thread/allowance", "/ladder"],
    },
    {
      id: "gauging",
      title: THREAD_STEPS.gauging,
      sentence: part.report?.thread.standard?.sources.limits ?? "",
      body: <GaugingStep />,
      places: [],
    },
    {
      id: "joint",
      title: THREAD_STEPS.joint,
      sentence: words.joint ?? "",
      body: <JointStep />,
      places: ["/joint"],
    },
    {
      id: "checks",
      title: THREAD_STEPS.checks,
      sentence: checksSentence(part.report),
      body: <ChecksStep />,
      verdict: part.report?.verdict,
      places: [],
    },
    {
      id: "weigh",
      title: THREAD_STEPS.weigh,
      sentence: weighSentence(recipe, part.problems.length ? null : part.report),
      body: <WeighStep />,
      places: ["/material", "/expected"],
    },
    {
      id: "title",
      title: THREAD_STEPS.title,
      sentence: titleSentence(recipe),
      body: <TitleStep />,
      places: ["/title_block", "/thread/drawn"],
    },
    {
      id: "solid",
      title: THREAD_STEPS.solid,
      sentence: solid ?? "not built yet",
      body: <SolidStep />,
      places: [],
    },
  ];
  return <StepList steps={steps} />;
}

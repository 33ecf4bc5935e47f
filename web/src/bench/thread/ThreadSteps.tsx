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

/** The steps of a threaded part in the order of the work. */
export function ThreadSteps() {
  const { recipe, part } = useThreadContext();
  const solid = useDesk((state) => state.solid);
  const { words } = part;
  const steps: StepRow[] = [
    {
      id: "thread",
      title: "Thread",
      sentence: words.thread ?? "",
      body: <ThreadStep />,
      places: ["/thread/designation", "/thread/form", "/thread/diameter", "/thread/pitch"],
    },
    {
      id: "host",
      title: "Host",
      sentence: words.host ?? "",
      body: <HostStep />,
      places: ["/host", "/use", "/unit", "/thread/side"],
    },
    {
      id: "ends",
      title: "Where it runs, and ends",
      sentence: words.ends ?? "",
      body: <RunStep />,
      places: ["/thread/at", "/thread/length", "/thread/start", "/thread/end"],
    },
    {
      id: "mate",
      title: "Size and mate",
      sentence: words.mate ?? "",
      body: <MateStep />,
      places: ["/mate", "/thread/size", "/thread/allowance", "/ladder"],
    },
    {
      id: "gauging",
      title: "Sizes and gauging",
      sentence: part.report?.thread.standard?.sources.limits ?? "",
      body: <GaugingStep />,
      places: [],
    },
    {
      id: "joint",
      title: "Joint",
      sentence: words.joint ?? "",
      body: <JointStep />,
      places: ["/joint"],
    },
    {
      id: "checks",
      title: "Checks",
      sentence: checksSentence(part.report),
      body: <ChecksStep />,
      verdict: part.report?.verdict,
      places: [],
    },
    {
      id: "weigh",
      title: "Weigh",
      sentence: weighSentence(recipe, part.report),
      body: <WeighStep />,
      places: ["/material", "/expected"],
    },
    {
      id: "title",
      title: "Title block",
      sentence: titleSentence(recipe),
      body: <TitleStep />,
      places: ["/title_block"],
    },
    {
      id: "solid",
      title: "Solid",
      sentence: solid ?? "not built yet",
      body: <SolidStep />,
      places: [],
    },
  ];
  return <StepList steps={steps} />;
}

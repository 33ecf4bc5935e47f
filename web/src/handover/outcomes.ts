import type { Schemas } from "../api/client";
import { sizeText } from "../look/numbers";

export type Offered = Schemas["OutputOut"];

export interface Outcome {
  key: string;
  name: string;
  use: string;
  /** Why the part cannot become it; empty where it can. */
  why: string;
  /** Whether it is made at once, by itself. */
  atOnce: boolean;
  size: string;
  off: string;
  sha256: string;
}

/** A row for each file that is offered, with what is known of it once an archive holds it. */
export function outcomes(offered: Offered[], contents: Schemas["Contents"] | null): Outcome[] {
  return offered.map((one) => {
    const made = contents?.files.find(({ key }) => key === one.key);
    const off = made?.proof.relative_error;
    return {
      key: one.key,
      name: `${one.what}, ${one.title}`,
      use: one.use,
      why: one.misfit?.reason ?? contents?.left_out.find(({ key }) => key === one.key)?.why ?? "",
      atOnce: !one.built && !one.misfit,
      size: made ? sizeText(made.bytes) : "",
      off: typeof off === "number" ? off.toExponential(0) : "",
      sha256: made?.sha256 ?? "",
    };
  });
}

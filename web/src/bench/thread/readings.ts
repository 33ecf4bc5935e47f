import type { Schemas } from "../../api/client";

/** What is typed of a made thread, in its own unit and in degrees. */
export type Typed = Partial<
  Record<
    | "crest"
    | "depth"
    | "pitch_diameter"
    | "over"
    | "wire"
    | "pitch_error"
    | "leading_error"
    | "trailing_error",
    string
  >
>;

const number = (text: string | undefined) => {
  const value = Number((text ?? "").trim().replace(",", ".").replace("−", "-"));
  return (text ?? "").trim() === "" || !Number.isFinite(value) ? undefined : value;
};

/** The readings that were typed, in mm; what is no number is not given. */
export function readingsOf(typed: Typed, mm: number): Schemas["Readings"] {
  const lengths = (
    ["crest", "depth", "pitch_diameter", "over", "wire", "pitch_error"] as const
  ).flatMap((key) => {
    const value = number(typed[key]);
    return value === undefined ? [] : [[key, value * mm] as const];
  });
  const flanks = [number(typed.leading_error) ?? 0, number(typed.trailing_error) ?? 0];
  return {
    ...Object.fromEntries(lengths),
    ...(flanks.some(Boolean) && { flank_errors: flanks as [number, number] }),
  };
}

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { FoundSpring } from "../api/client";
import { DataTable } from "../look/DataTable";
import { useLook } from "../look/Look";
import { digits, told, type LengthUnit } from "../look/numbers";
import { keyOf } from "./beside";
import type { Kind } from "./duty";

const RULES: Record<Kind, string> = {
  compression: "Closed and ground ends, cold coiled, by EN 13906-1.",
  nest: "One in the other, as long when free, of opposite hands; closed and ground ends, by EN 13906-1. The outer spring stands first.",
  extension: "Full loops at both ends, by EN 13906-2; hooks after Shigley.",
  torsion: "Legs held firmly, by EN 13906-3; angles count from free.",
};

/** What is told of a spring; of a pair the outer one's over the inner one's. */
function both(spring: FoundSpring, text: (one: Sizes) => string): ReactNode {
  return (
    <>
      {text(spring)}
      {spring.inner && <Box>{text(spring.inner)}</Box>}
    </>
  );
}

type Sizes = Pick<FoundSpring, "wire_diameter" | "mean_diameter" | "turns">;

interface Props {
  kind: Kind;
  unit: LengthUnit;
  springs: FoundSpring[];
  chosen: FoundSpring | undefined;
  onChoose: (index: number) => void;
  /** The keys of those that stand side by side. */
  beside: string[];
  onBeside: (key: string) => void;
}

/** The springs that do it, the best first. */
export function FoundTable(props: Props) {
  const { kind, unit, springs, chosen, onChoose, beside, onBeside } = props;
  const { colours } = useLook();
  const priced = springs.some(({ price }) => price !== null);
  const names = ["⌀ wire", "⌀ mean", "Turns", "Mass", ...(priced ? ["Price"] : []), "Stress"];
  return (
    <Box
      tabIndex={0}
      role="region"
      aria-label="Springs that do it"
      sx={{ overflow: "auto", minHeight: 0, px: 2 }}
    >
      <DataTable
        label="Springs"
        heads={["Wire", ...names, "Most used limit", "Beside"]}
        rows={springs.map((spring, index) => ({
          key: String(index),
          chosen: spring === chosen,
          onChoose: () => onChoose(index),
          cells: [
            <button
              type="button"
              className="plain-action"
              aria-pressed={spring === chosen}
              style={{ color: spring === chosen ? colours.copper : undefined }}
              onClick={() => onChoose(index)}
            >
              {spring.wire}
            </button>,
            both(spring, (one) => told(one.wire_diameter, "mm", unit)),
            both(spring, (one) => told(one.mean_diameter, "mm", unit, 4)),
            both(spring, (one) => digits(one.turns, 4)),
            `${digits(spring.mass, 4)} g`,
            ...(priced ? [spring.price === null ? "–" : digits(spring.price, 3)] : []),
            told(spring.stress, "MPa", unit, 4),
            `${spring.limit}, ${digits(100 * spring.use, 3)} %`,
            <input
              type="checkbox"
              style={{ margin: 0, width: 18, height: 18, accentColor: colours.copper }}
              checked={beside.includes(keyOf(spring))}
              onClick={(event) => event.stopPropagation()}
              onChange={() => onBeside(keyOf(spring))}
              aria-label={`Compare ${spring.wire} ⌀ ${told(spring.wire_diameter, "mm", unit)}, number ${index + 1}`}
            />,
          ],
        }))}
      />
      <Typography variant="caption" color="text.secondary" sx={{ display: "block", py: 1 }}>
        {RULES[kind]} Filled dots: no other spring is better in both at once.
      </Typography>
    </Box>
  );
}

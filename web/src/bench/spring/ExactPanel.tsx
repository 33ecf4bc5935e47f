import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type ExactElasticity } from "../../api/client";
import { shown, told } from "../../look/numbers";
import { usePartContext, useUnit } from "../PartContext";
import { difference } from "./difference";
import { SectionField } from "./SectionField";
import { capital } from "../../look/words";
import { DataTable } from "../../look/DataTable";

/** Rate and greatest stresses by the exact elasticity of a turn, beside the formulas, and the shear over the wire. */
export function ExactPanel() {
  const { recipe } = usePartContext();
  const solve = useMutation({
    mutationFn: () => answer(client.POST("/api/springs/exact", { body: recipe })),
  });
  const { reset } = solve;
  useEffect(reset, [recipe, reset]);
  const found = solve.data;
  return (
    <Stack spacing={0.5} component="section" aria-label="Exact elasticity">
      <Button variant="outlined" disabled={solve.isPending} onClick={() => solve.mutate()}>
        Solve a turn exactly
      </Button>
      {solve.error && (
        <Typography variant="body2" role="alert">
          {solve.error.message}.
        </Typography>
      )}
      {found && <Solved found={found} />}
    </Stack>
  );
}

type Row = [title: string, exact: number, formula: number | null, unit: string];

function Solved({ found }: { found: ExactElasticity }) {
  const unit = useUnit();
  const effort = found.rate_turning === null ? "N mm" : "N";
  const rows: Row[] = [
    ...(found.rate_turning === null
      ? [["Rate", found.rate, found.formula_rate, "N mm/°"] satisfies Row]
      : ([
          ["Rate, ends held from turning", found.rate, found.formula_rate, "N/mm"],
          ["Rate, ends free to turn", found.rate_turning, found.formula_rate, "N/mm"],
        ] satisfies Row[])),
    ...found.loads.flatMap((load): Row[] => [
      [
        `Greatest ${found.stress} at ${told(load.effort, effort, unit)}`,
        load.stress,
        load.formula_stress,
        "MPa",
      ],
      [`Equivalent stress at ${told(load.effort, effort, unit)}`, load.equivalent, null, "MPa"],
    ]),
    ...found.hooks.flatMap((hook): Row[] => {
      const at = `in the hooks at ${told(hook.effort, effort, unit)}`;
      return [
        [`Bending ${at}`, hook.stress, hook.formula_stress, "MPa"],
        [`Torsion ${at}`, hook.shear, hook.formula_shear, "MPa"],
      ];
    }),
  ];
  return (
    <>
      <DataTable
        label="Exact elasticity beside the formulas"
        heads={["", "exact", found.formula, ""]}
        strong={1}
        rows={rows.map(([title, exact, formula, base]) => ({
          key: title,
          cells: [
            title,
            told(exact, base, unit),
            formula === null ? "" : shown(formula, base, unit).number,
            formula === null ? "" : difference(formula, exact),
          ],
        }))}
      />
      <SectionField found={found} />
      <Typography variant="caption" color="text.secondary">
        {capital(found.stress)} at {told(found.effort, effort, unit)} over its section, the axis of
        the coil at the left. A turn is solved as it is, with its curvature and pitch (Treyssède,
        Wave Motion 45, 2008).
      </Typography>
    </>
  );
}

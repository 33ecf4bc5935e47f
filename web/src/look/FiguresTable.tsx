import type { Schemas } from "../api/client";
import { Beneath } from "./Beneath";
import { DataTable } from "./DataTable";
import { Formula } from "./Formula";
import { told, type LengthUnit } from "./numbers";

interface Props {
  label: string;
  figures: Schemas["Told"][];
  unit: LengthUnit;
}

/** Figures, each with its formula and source. */
export function FiguresTable({ label, figures, unit }: Props) {
  return (
    <DataTable
      label={label}
      strong={1}
      rows={figures.map((figure) => ({
        key: figure.key,
        cells: [
          <>
            {figure.title}
            <Beneath>
              <Formula {...figure} />; {figure.source}
            </Beneath>
          </>,
          figure.value === null ? "–" : told(figure.value, figure.unit, unit),
        ],
      }))}
    />
  );
}

import Typography from "@mui/material/Typography";
import type { Standard } from "../../api/client";
import { Beneath } from "../../look/Beneath";
import { DataTable } from "../../look/DataTable";
import { Formula } from "../../look/Formula";
import { digits, MM } from "../../look/numbers";

const DIAMETERS = ["major", "pitch", "minor"] as const;

/** Basic sizes and limits of both members, to the digits that their standard prints. */
export function SizesTable({ standard }: { standard: Standard }) {
  const inch = standard.inch ?? null;
  const members = inch ?? standard;
  const places = inch ? (standard.family === "pipe-american" && standard.taper ? 5 : 4) : 3;
  const shown = (value: number | null) => (value === null ? "–" : value.toFixed(places));
  return (
    <DataTable
      label="Sizes"
      heads={[inch ? "inches" : "mm", "Basic", "Most", "Least"]}
      rows={(["external", "internal"] as const).flatMap((side) => [
        { key: side, cells: [<strong>{`${side} ${members[side].tolerance}`}</strong>] },
        ...DIAMETERS.map((name) => {
          const size = members[side][name];
          return {
            key: side + name,
            cells: [name, ...[size.basic, size.max, size.min].map(shown)],
          };
        }),
      ])}
    />
  );
}

/** A figure with its unit, lengths and areas in inches where the thread is made in them. */
function gaugedText({ value, unit }: Standard["gauging"][number], inch: boolean): string {
  if (value === null) return "–";
  if (!inch || !unit.startsWith("mm")) return `${digits(value)} ${unit}`;
  const power = unit === "mm²" ? 2 : 1;
  return `${(value / MM.in ** power).toFixed(4)} in${power === 2 ? "²" : ""}`;
}

/** The limit gauges of its class, by the pitch diameter that each is made at, and where it is worn. */
function Gauges({ standard }: { standard: Standard }) {
  return (
    <DataTable
      label="Limit gauges"
      heads={["Gauge, mm", "Most", "Least", "Worn"]}
      rows={standard.gauges.map(({ name, most, least, worn }) => ({
        key: name,
        cells: [name, ...[most, least, worn].map((value) => value.toFixed(4))],
      }))}
    />
  );
}

/** At most eight of many, spread over all. */
function spread<T>(all: T[]): T[] {
  const step = Math.max(Math.ceil(all.length / 8), 1);
  return all.filter((_, index) => index % step === 0);
}

/** What is drilled and measured for a thread, each figure with its rule. */
export function GaugingTable({ standard }: { standard: Standard }) {
  return (
    <>
      <DataTable
        label="Gauging"
        rows={standard.gauging.map((figure) => ({
          key: figure.key,
          title: `${figure.formula} (${figure.source})`,
          cells: [
            <>
              {figure.title}
              <Beneath>
                {figure.formula ? <Formula symbol="" formula={figure.formula} /> : figure.source}
              </Beneath>
            </>,
            gaugedText(figure, Boolean(standard.inch)),
          ],
        }))}
      />
      {standard.gauges.length > 0 && <Gauges standard={standard} />}
      {standard.drills.length > 0 && (
        <Typography variant="body2">
          Drills within the limits, and the height each leaves:{" "}
          {spread(standard.drills)
            .map(({ name, share }) => `${name} (${digits(100 * share, 2)} %)`)
            .join(", ")}
          .
        </Typography>
      )}
      <Typography variant="caption" color="text.secondary">
        {Object.entries(standard.sources)
          .map(([what, source]) => `${what}: ${source}`)
          .join("; ")}
      </Typography>
    </>
  );
}

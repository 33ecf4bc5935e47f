import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { Standard } from "../../api/client";
import { digits, MM } from "../../look/numbers";

const DIAMETERS = ["major", "pitch", "minor"] as const;

/** Basic sizes and limits of both members, to the digits that their standard prints. */
export function SizesTable({ standard }: { standard: Standard }) {
  const inch = standard.inch ?? null;
  const members = inch ?? standard;
  const places = inch ? (standard.family === "pipe-american" && standard.taper ? 5 : 4) : 3;
  const shown = (value: number | null) => (value === null ? "–" : value.toFixed(places));
  return (
    <Table size="small" aria-label="Sizes" sx={{ "& td, & th": { px: 0.5, py: 0.3 } }}>
      <TableHead>
        <TableRow>
          <TableCell>{inch ? "inches" : "mm"}</TableCell>
          <TableCell align="right">Basic</TableCell>
          <TableCell align="right">Most</TableCell>
          <TableCell align="right">Least</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {(["external", "internal"] as const).flatMap((side) =>
          DIAMETERS.map((name) => {
            const size = members[side][name];
            return (
              <TableRow key={side + name}>
                <TableCell component="th" scope="row" sx={{ fontWeight: 400 }}>
                  {name === "major" && (
                    <strong>
                      {side} {members[side].tolerance}
                      <br />
                    </strong>
                  )}
                  {name}
                </TableCell>
                {[size.basic, size.max, size.min].map((value, index) => (
                  <TableCell key={index} align="right" sx={{ verticalAlign: "bottom" }}>
                    {shown(value)}
                  </TableCell>
                ))}
              </TableRow>
            );
          }),
        )}
      </TableBody>
    </Table>
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
    <Table
      size="small"
      aria-label="Limit gauges"
      sx={{ "& td, & th": { px: 0.5, py: 0.3, fontVariantNumeric: "tabular-nums" } }}
    >
      <TableHead>
        <TableRow>
          <TableCell>Gauge, mm</TableCell>
          {["Most", "Least", "Worn"].map((name) => (
            <TableCell key={name} align="right">
              {name}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {standard.gauges.map(({ name, most, least, worn }) => (
          <TableRow key={name}>
            <TableCell component="th" scope="row">
              {name}
            </TableCell>
            {[most, least, worn].map((value, index) => (
              <TableCell key={index} align="right">
                {value.toFixed(4)}
              </TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
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
      <Table size="small" aria-label="Gauging" sx={{ "& td, & th": { px: 0.5, py: 0.3 } }}>
        <TableBody>
          {standard.gauging.map((figure) => (
            <TableRow key={figure.key} title={`${figure.formula} (${figure.source})`}>
              <TableCell component="th" scope="row" sx={{ fontWeight: 400 }}>
                {figure.title}
                <Typography variant="caption" color="text.secondary" sx={{ display: "block" }}>
                  {figure.formula || figure.source}
                </Typography>
              </TableCell>
              <TableCell align="right" sx={{ whiteSpace: "nowrap" }}>
                {gaugedText(figure, Boolean(standard.inch))}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
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

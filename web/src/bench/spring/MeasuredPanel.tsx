import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { readReadings, type Spring } from "../../api/client";
import { MM, digits, lengthText, told, type LengthUnit } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { FileButton } from "../forms/FileButton";
import { useUnit } from "../PartContext";
import { difference } from "./difference";
import { DataTable } from "../../look/DataTable";

type Measured = NonNullable<Spring["measured"]>;
type Explained = Measured["explained"][number];

const UNITS = ["mm N", "in lbf", "mm kgf", "in N"];

/** Readings of a made spring, laid over the diagram: its rate, offset and hysteresis, and what would explain them. */
export function MeasuredPanel({ spring }: { spring: Spring }) {
  const unit = useUnit();
  const set = useRecipe((state) => state.set);
  return (
    <Stack component="section" aria-label="Measured spring" spacing={0.5}>
      <FileButton
        label="Lay a measured spring over it, CSV"
        accept=".csv,.txt"
        units={UNITS}
        read={readReadings}
        onRead={(found) =>
          set(
            "/spring/measured",
            found.map(([length, force]) => [
              Number((length! / MM[unit]).toPrecision(9)),
              Number(force!.toPrecision(9)),
            ]),
          )
        }
      />
      {spring.measured && (
        <>
          <Found measured={spring.measured} />
          <Button variant="text" onClick={() => set("/spring/measured", undefined)}>
            Take the readings away
          </Button>
        </>
      )}
    </Stack>
  );
}

function Found({ measured }: { measured: Measured }) {
  const unit = useUnit();
  const [from, to] = measured.between;
  return (
    <>
      <Typography variant="body2">
        Rate <strong>{told(measured.rate, "N/mm", unit, 4)}</strong> from {lengthText(from!, unit)}{" "}
        to {lengthText(to!, unit)}, designed {told(measured.calculated_rate, "N/mm", unit, 4)},{" "}
        {difference(measured.calculated_rate, measured.rate)}; in their middle{" "}
        {told(measured.offset, "N", unit, 3)} off.
        {measured.hysteresis !== null &&
          ` Coming back up to ${told(measured.hysteresis, "N", unit, 3)} less; ${digits(100 * (measured.lost ?? 0), 2)} % of the work is lost.`}
      </Typography>
      <DataTable
        label="What would explain it"
        heads={["input, alone", "design", "would be", "kept to"]}
        strong={2}
        rows={measured.explained.map((one) => ({
          key: one.key,
          cells: [
            one.title,
            amount(one, one.design, unit),
            amount(one, one.value, unit),
            kept(one, unit),
          ],
        }))}
      />
    </>
  );
}

function amount({ unit: own }: Explained, value: number, unit: LengthUnit): string {
  return told(value, own, unit, own === "mm" ? undefined : 4);
}

/** The tolerance, and whether what would explain the difference lies within. */
function kept(one: Explained, unit: LengthUnit): string {
  if (one.either === null) return "";
  const held = Math.abs(one.value - one.design) <= one.either;
  return `± ${amount(one, one.either, unit)}${held ? ", within" : ""}`;
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { readReadings, type Spring } from "../../api/client";
import { MM, digits, lengthText, told, type LengthUnit } from "../../look/numbers";
import { COMPARED_TABLE } from "../../look/tables";
import { useRecipe } from "../../state/bench";
import { FileButton } from "../forms/FileButton";
import { usePartContext } from "../PartContext";
import { difference } from "./difference";

type Measured = NonNullable<Spring["measured"]>;
type Explained = Measured["explained"][number];

const UNITS = ["mm N", "in lbf", "mm kgf", "in N"];

/** Readings of a made spring, laid over the diagram: its rate, offset and hysteresis, and what would explain them. */
export function MeasuredPanel({ spring }: { spring: Spring }) {
  const { unit } = usePartContext();
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
  const { unit } = usePartContext();
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
      <Box component="table" aria-label="What would explain it" sx={COMPARED_TABLE}>
        <thead>
          <tr>
            <th scope="col" style={{ textAlign: "left" }}>
              input, alone
            </th>
            <th scope="col">design</th>
            <th scope="col">would be</th>
            <th scope="col">kept to</th>
          </tr>
        </thead>
        <tbody>
          {measured.explained.map((one) => (
            <tr key={one.key}>
              <td>{one.title}</td>
              <td>{amount(one, one.design, unit)}</td>
              <Box component="td" sx={{ fontWeight: 600 }}>
                {amount(one, one.value, unit)}
              </Box>
              <td>{kept(one, unit)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
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

import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import { useMemo } from "react";
import type { FoundSpring } from "../api/client";
import { told, type LengthUnit } from "../look/numbers";
import { useLook } from "../look/Look";
import { Chart } from "../plot/Chart";
import { useScales } from "../plot/scales";

/** Colours that are told apart with most kinds of colour blindness (Okabe and Ito, 2008). */
const HUES = ["#0072b2", "#d55e00", "#009e73", "#cc79a7", "#e69f00", "#56b4e9", "#8c6d1f"];

interface Props {
  unit: LengthUnit;
  springs: FoundSpring[];
  chosen: FoundSpring | undefined;
  onChoose: (index: number) => void;
}

/** All springs that were found, mass over the most used limit, coloured by wire; one is chosen by a press. */
export function FoundPlot({ unit, springs, chosen, onChoose }: Props) {
  const { colours } = useLook();
  const hues = useMemo(() => {
    const names = [...new Set(springs.map(({ wire }) => wire))];
    return new Map(names.slice(0, HUES.length).map((name, k) => [name, HUES[k]!]));
  }, [springs]);
  const masses = springs.map(({ mass }) => mass);
  const [least, most] = [Math.min(...masses), Math.max(...masses)];
  const room = 0.06 * (most - least || most);
  return (
    <Stack direction="row" spacing={1} sx={{ px: 2, height: 216, flex: "none" }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Chart
          label="Springs found, mass over use"
          along={{
            label: "mass, g",
            values: masses,
            low: Math.max(least - room, 0),
            high: most + room,
          }}
          left={{ label: "most used limit, %", low: 0, high: 104 }}
          table={[
            { title: "mass, g", values: masses },
            { title: "most used limit, %", values: springs.map(({ use }) => 100 * use) },
            { title: "wire diameter, mm", values: springs.map((one) => one.wire_diameter) },
            { title: "mean diameter, mm", values: springs.map((one) => one.mean_diameter) },
          ]}
        >
          <Dots unit={unit} springs={springs} chosen={chosen} onChoose={onChoose} hues={hues} />
        </Chart>
      </Box>
      <Box
        component="ul"
        aria-label="Colours of the wires"
        sx={{ listStyle: "none", m: 0, p: 0, pt: 1, width: 172, fontSize: "0.78rem" }}
      >
        {[...hues].map(([name, hue]) => (
          <Box component="li" key={name} sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            <Box sx={{ width: 9, height: 9, borderRadius: "50%", bgcolor: hue, flex: "none" }} />
            {name}
          </Box>
        ))}
        {new Set(springs.map(({ wire }) => wire)).size > hues.size && (
          <Box component="li" sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            <Box
              sx={{
                width: 9,
                height: 9,
                borderRadius: "50%",
                bgcolor: colours.pencil,
                flex: "none",
              }}
            />
            other wires
          </Box>
        )}
      </Box>
    </Stack>
  );
}

function Dots({ unit, springs, chosen, onChoose, hues }: Props & { hues: Map<string, string> }) {
  const { colours } = useLook();
  const { x, y } = useScales();
  const order = springs
    .map((_, index) => index)
    .sort((a, b) => Number(springs[a] === chosen) - Number(springs[b] === chosen));
  return order.map((index) => {
    const spring = springs[index]!;
    const hue = hues.get(spring.wire) ?? colours.pencil;
    return (
      <circle
        key={index}
        cx={x(spring.mass)}
        cy={y(100 * spring.use)}
        r={spring === chosen ? 7 : 4.5}
        fill={spring.front ? hue : colours.sheet}
        stroke={spring === chosen ? colours.ink : hue}
        strokeWidth={spring === chosen ? 2.5 : 1.5}
        style={{ cursor: "pointer" }}
        onClick={() => onChoose(index)}
      >
        <title>
          {`${spring.wire} ⌀ ${told(spring.wire_diameter, "mm", unit)} on ${told(spring.mean_diameter, "mm", unit)}`}
        </title>
      </circle>
    );
  });
}

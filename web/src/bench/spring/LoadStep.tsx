import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, keepFile, type Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { MM, digits, lengthText } from "../../look/numbers";
import { FIGURES_TABLE } from "../../look/tables";
import { kindName, kindsAt, ownFields } from "../../schema/schema";
import { useRecipe } from "../../state/bench";
import { Choice } from "../Choice";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";
import { KindButton, KindFields } from "../forms/KindFields";
import { ForceDiagram } from "./ForceDiagram";
import {
  TOLD,
  effortText,
  placeScale,
  placeText,
  toldBy,
  unitOf,
  type Asked,
  type Told,
} from "./words";
import { LifeDiagram } from "./LifeDiagram";

const OWN = "a wire of its own";

/** The fields that stand with its life. */
const LIFE = ["peened", "grade", "relaxation"];

/** The kinds whose sums a model stands beside. */
const COMPARED = ["compression", "spiral"];

/** What the spring is wound of, where it works and for how long; how near it is to each limit. */
export function LoadStep() {
  const { recipe, part } = usePartContext();
  const set = useRecipe((state) => state.set);
  const spring = part.report?.spring;
  if (!recipe.spring) return <NoLoad />;
  return (
    <Stack spacing={1.5}>
      <WireChoice asked={recipe.spring} />
      <KindFields place="/spring" except={["points", ...LIFE]} />
      <Points asked={recipe.spring} spring={spring ?? null} />
      {spring && <ForceDiagram spring={spring} />}
      {spring && <Limits spring={spring} />}
      <Stack direction="row" spacing={1}>
        <ValueField place="/spring/cycles" step={100000} />
        <ValueField place="/spring/temperature" step={5} />
      </Stack>
      <KindFields
        place="/spring"
        except={ownFields(recipe, "/spring")
          .map(({ key }) => key)
          .filter((key) => !LIFE.includes(key))}
      />
      {spring?.life && <LifeDiagram life={spring.life} />}
      {spring && <Sheets />}
      {spring && COMPARED.includes(spring.kind) && !recipe.wires?.length && (
        <Beams spring={spring} />
      )}
      {spring && <Figures spring={spring} />}
      <Button variant="text" onClick={() => set("/spring", undefined)}>
        Leave the load out
      </Button>
    </Stack>
  );
}

function NoLoad() {
  const { part, recipe, unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const height = (part.report?.figures.overall_height ?? 0) / MM[unit];
  const wire = recipe.material === "stainless-steel" ? "EN 10270-3 1.4310 NS" : "EN 10270-1 SH";
  return (
    <Stack spacing={1.5}>
      <Typography variant="body2">
        Say that this coil is a spring, and its forces, stresses and limits are worked out as you
        draw.
      </Typography>
      {kindsAt(recipe, "/spring").map(([kind, title], index) => (
        <KindButton
          key={kind}
          name={kindName(recipe, "/spring", kind)}
          size={height || 20}
          variant={index === 0 ? "contained" : "outlined"}
          onNew={(fresh) => set("/spring", { ...fresh, wire })}
        >
          It is {/^[aeiou]/.test(title) ? "an" : "a"} {title} spring
        </KindButton>
      ))}
    </Stack>
  );
}

function WireChoice({ asked }: { asked: Asked }) {
  const set = useRecipe((state) => state.set);
  const { part } = usePartContext();
  const { data: wires = [] } = useQuery({
    queryKey: ["wires"],
    queryFn: () => answer(client.GET("/api/springs/wires")),
    staleTime: Infinity,
  });
  const own = typeof asked.wire === "object";
  const value = own ? OWN : ((asked.wire as string | undefined) ?? "EN 10270-1 SH");
  const problem = part.problems.find((p) => p.place === "/spring/wire");
  const titles = Object.fromEntries(wires.map((wire) => [wire.name, wire.title]));
  return (
    <>
      <Autocomplete
        options={[...wires.map((wire) => wire.name), OWN]}
        value={value}
        disableClearable
        onChange={(_, name) =>
          set(
            "/spring/wire",
            name === OWN ? { strength: 1800, shear_modulus: 81500, elastic_modulus: 206000 } : name,
          )
        }
        renderOption={({ key, ...props }, name) => (
          <li key={key} {...props}>
            <Box>
              {name}
              <Typography variant="caption" color="text.secondary" sx={{ display: "block" }}>
                {titles[name] ?? "strength and moduli as typed"}
              </Typography>
            </Box>
          </li>
        )}
        renderInput={(params) => (
          <TextField
            {...params}
            label="Wire"
            error={Boolean(problem)}
            helperText={problem ? `${problem.reason}; ${problem.remedy}` : titles[value]}
          />
        )}
      />
      {own && (
        <>
          <ValueField place="/spring/wire/strength" step={10} />
          <Stack direction="row" spacing={1}>
            <ValueField place="/spring/wire/shear_modulus" step={100} />
            <ValueField place="/spring/wire/elastic_modulus" step={100} />
          </Stack>
        </>
      )}
    </>
  );
}

function Points({ asked, spring }: { asked: Asked; spring: Spring | null }) {
  const { unit } = usePartContext();
  const set = useRecipe((state) => state.set);
  const points: object[] = asked.points ?? [];
  const [place, effort] = TOLD[asked.kind];
  const scale = spring ? placeScale(spring, unit) : 1;
  const change = (index: number, told: Told) => {
    const load = spring?.loads[index];
    const value = told === effort ? (load?.effort ?? 10) : (load?.place ?? 10) / scale;
    set(`/spring/points/${index}`, { [told]: Number(value.toPrecision(4)) });
  };
  const add = () => {
    const middle = spring ? 0.5 * (spring.first + spring.last) : 10;
    set("/spring/points", [...points, { [place]: Number((middle / scale).toPrecision(3)) }]);
  };
  return (
    <Stack spacing={0.75} component="section" aria-label="Working points">
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3" component="h3">
          Working points
        </Typography>
        <Button variant="text" onClick={add}>
          Add
        </Button>
      </Stack>
      {points.map((point, index) => {
        const by = toldBy(asked.kind, point);
        const load = spring?.loads[index];
        return (
          <Box key={index}>
            <Stack direction="row" spacing={0.5} sx={{ alignItems: "center" }}>
              <Box sx={{ width: 104, flex: "none" }}>
                <Choice
                  label={`Point ${index + 1}`}
                  value={by}
                  options={[
                    [place, place],
                    [effort, effort],
                  ]}
                  onChange={(next) => change(index, next)}
                />
              </Box>
              <ValueField
                label={by[0]!.toUpperCase() + by.slice(1)}
                name={`Working point ${index + 1}, ${by}`}
                place={`/spring/points/${index}/${by}`}
                unit={unitOf(by, unit)}
                step={by === "length" ? 0.1 : 1}
              />
              <button
                type="button"
                className="plain-action"
                onClick={() =>
                  set(
                    "/spring/points",
                    points.filter((_, i) => i !== index),
                  )
                }
                aria-label={`Remove working point ${index + 1}`}
                title="Remove"
              >
                ✕
              </button>
            </Stack>
            {spring && load && (
              <Typography
                variant="caption"
                color="text.secondary"
                sx={{ display: "block", textAlign: "right", pr: 3 }}
              >
                {by === effort
                  ? placeText(spring, load.place, unit)
                  : effortText(spring, load.effort)}
                {", "}
                {digits(load.stress, 4)} MPa, {digits(100 * load.utilisation, 3)} % of what is
                allowed
                {load.left < load.effort && `; relaxed ${effortText(spring, load.left)}`}
              </Typography>
            )}
          </Box>
        );
      })}
    </Stack>
  );
}

const SCALE = 1.25;

/** How much of each limit is used, on one scale, the most used first. */
function Limits({ spring }: { spring: Spring }) {
  const { colours } = useLook();
  const { part } = usePartContext();
  const verdicts = Object.fromEntries(
    (part.report?.checks ?? []).map((check) => [check.id, check.verdict]),
  );
  return (
    <Stack component="section" aria-label="Limits" spacing={0.5}>
      <Typography variant="h3" component="h3">
        How much of each limit is used
      </Typography>
      {spring.limits.map((limit) => (
        <Box
          key={limit.id}
          sx={{
            display: "grid",
            gridTemplateColumns: "128px 1fr 46px",
            columnGap: 1,
            alignItems: "center",
            fontSize: "0.82rem",
            fontVariantNumeric: "tabular-nums",
          }}
        >
          <span>{limit.title}</span>
          <Box
            aria-hidden="true"
            sx={{ position: "relative", height: 9, bgcolor: colours.line, borderRadius: 0.5 }}
          >
            <Box
              sx={{
                position: "absolute",
                inset: 0,
                right: `${100 - (100 * Math.min(limit.use, SCALE)) / SCALE}%`,
                bgcolor: colours[verdicts[limit.id] ?? "clear"],
              }}
            />
            <Box
              sx={{
                position: "absolute",
                top: -2,
                bottom: -2,
                left: `${100 / SCALE}%`,
                borderLeft: `2px solid ${colours.ink}`,
              }}
            />
          </Box>
          <Box component="span" sx={{ textAlign: "right", fontWeight: 600 }}>
            {digits(100 * limit.use, 3)} %
          </Box>
        </Box>
      ))}
    </Stack>
  );
}

/** The data sheet, to keep. */
function Sheets() {
  const { recipe } = usePartContext();
  const keep = useMutation({
    mutationFn: (suffix: ".html" | ".pdf") => keepFile("sheet", recipe, suffix),
  });
  return (
    <Stack direction="row" spacing={1} sx={{ alignItems: "center" }}>
      <Typography variant="h3" component="h3" sx={{ flex: 1 }}>
        Data sheet
      </Typography>
      <Button variant="outlined" disabled={keep.isPending} onClick={() => keep.mutate(".pdf")}>
        PDF
      </Button>
      <Button variant="outlined" disabled={keep.isPending} onClick={() => keep.mutate(".html")}>
        HTML
      </Button>
    </Stack>
  );
}

/** Rate and stress by beams along the wire, or by the elastica of a strip, beside the closed sums. */
function Beams({ spring }: { spring: Spring }) {
  const { recipe } = usePartContext();
  const compare = useMutation({
    mutationFn: () => answer(client.POST("/api/springs/beams", { body: recipe })),
  });
  const { reset } = compare;
  useEffect(reset, [recipe, reset]);
  const found = compare.data;
  const row = (name: string, beams: number, sums: number, its: string) => (
    <tr>
      <td>{name}</td>
      <Box component="td" sx={{ textAlign: "right", fontWeight: 600 }}>
        {digits(beams)} {its}
      </Box>
      <Box component="td" sx={{ textAlign: "right", pl: 1 }}>
        {digits(sums)} {its}
      </Box>
      <Box component="td" sx={{ textAlign: "right", pl: 1 }}>
        {digits(100 * (beams / sums - 1), 2)} %
      </Box>
    </tr>
  );
  return (
    <Stack spacing={0.5} component="section" aria-label="Beam model">
      <Button variant="outlined" disabled={compare.isPending} onClick={() => compare.mutate()}>
        Compare with {spring.kind === "spiral" ? "the elastica" : "a beam model"}
      </Button>
      {compare.error && (
        <Typography variant="body2" role="alert">
          {compare.error.message}.
        </Typography>
      )}
      {found && (
        <>
          <Box component="table" sx={{ fontSize: "0.82rem", fontVariantNumeric: "tabular-nums" }}>
            <thead>
              <tr>
                <td>{spring.kind === "spiral" ? "wound a little" : "all turns open"}</td>
                <Box component="td" sx={{ textAlign: "right" }}>
                  {spring.kind === "spiral" ? "elastica" : "beams"}
                </Box>
                <Box component="td" sx={{ textAlign: "right" }}>
                  sums
                </Box>
                <td />
              </tr>
            </thead>
            <tbody>
              {row("Rate", found.rate, found.closed_rate, found.units[1]!)}
              {row(`Stress under 1 ${found.units[0]}`, found.stress, found.closed_stress, "MPa")}
            </tbody>
          </Box>
          <Typography variant="caption" color="text.secondary">
            {found.why}.
          </Typography>
        </>
      )}
    </Stack>
  );
}

/** Every figure with its formula, inputs and source. */
function Figures({ spring }: { spring: Spring }) {
  const { unit } = usePartContext();
  return (
    <Box component="table" aria-label="Figures of the spring" sx={FIGURES_TABLE}>
      <tbody>
        {spring.figures.map((figure) => (
          <tr key={figure.key}>
            <td>
              {figure.title}
              <Typography
                variant="caption"
                color="text.secondary"
                sx={{ display: "block", lineHeight: 1.3 }}
              >
                {figure.formula}; {figure.source}
              </Typography>
            </td>
            <Box
              component="td"
              sx={{ textAlign: "right", fontWeight: 600, whiteSpace: "nowrap", pl: 1 }}
            >
              {figure.value === null
                ? "–"
                : figure.unit === "mm"
                  ? lengthText(figure.value, unit)
                  : `${digits(figure.value)} ${figure.unit}`}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

import type { KeyboardEvent, PointerEvent } from "react";
import type { Spring } from "../../api/client";
import { useLook } from "../../look/Look";
import { Chart } from "../../plot/Chart";
import { useScales } from "../../plot/scales";
import type { Rule } from "../../plot/Rules";
import { useDesk, useRecipe } from "../../state/bench";
import { unitShown } from "../../look/numbers";
import { usePartContext, useUnit } from "../PartContext";
import { forceAt } from "./curve";
import { TOLD, effortText, placeScale, placeText, toldBy } from "./words";

/** Force over length, or torque over angle, from free to the last place drawn: the limits of stress, the least length, and the working points, which
 * are dragged along it. */
export function ForceDiagram({ spring }: { spring: Spring }) {
  const unit = useUnit();
  const { colours } = useLook();
  const pressed = useDesk((state) => state.pressed);
  const { first: free, last, least_length: least, curve } = spring;
  const [low, high] = [Math.min(free, last), Math.max(free, last)];
  const scale = placeScale(spring, unit);
  const effort = unitShown(spring.units[1]!, unit);
  const drawn = spring.as_drawn;
  const most =
    (1.06 / effort.size) *
    Math.max(
      ...[...curve, ...(drawn?.curve ?? [])].map((row) => row[1]!),
      ...spring.loads.map((l) => l.effort),
      ...(spring.measured?.readings ?? []).map((row) => row[1]!),
    );
  const rules: Rule[] = spring.marks
    .filter((mark) => mark.effort / effort.size < most)
    .map((mark) => ({
      y: mark.effort / effort.size,
      label: mark.words,
      colour: colours[mark.verdict],
    }));
  if (least !== null && least < free) {
    const label = `least ${placeText(spring, least, unit)}`;
    rules.push({ x: least / scale, label, colour: colours.watch });
  }
  if (pressed !== null) {
    rules.push({
      x: Math.min(Math.max(pressed, low), high) / scale,
      label: "",
      colour: colours.ink,
    });
  }
  const turns = spring.units[0] === "°";
  const end = spring.solid_length === null ? "" : ", to solid length";
  return (
    <Chart
      label={turns ? "Torque over angle" : "Force over length"}
      height={232}
      along={{
        label: `${turns ? "angle, °" : `length, ${unit}`}, from free${end}`,
        values: curve.map((row) => row[0]! / scale),
        low: low / scale,
        high: high / scale,
        reverse: free > last,
      }}
      left={{ label: `${turns ? "torque" : "force"}, ${effort.unit}`, low: 0, high: most }}
      lines={[
        {
          label: drawn ? spring.rules_words : turns ? "torque" : "force",
          values: curve.map((row) => row[1]! / effort.size),
          colour: colours.copper,
        },
        ...(drawn
          ? [
              {
                label: "as drawn",
                values: curve.map((row) => forceAt(drawn.curve, row[0]!) / effort.size),
                colour: colours.pencil,
                dashed: true,
              },
            ]
          : []),
      ]}
      rules={rules}
    >
      {spring.measured && (
        <Readings readings={spring.measured.readings} scale={scale} effort={effort.size} />
      )}
      <WorkingPoints spring={spring} scale={scale} effort={effort.size} />
    </Chart>
  );
}

/** What a made spring was read to do, going filled and coming back open. */
function Readings(props: { readings: number[][]; scale: number; effort: number }) {
  const { readings, scale, effort } = props;
  const { colours } = useLook();
  const { x, y } = useScales();
  return readings.map(([length, force, , back], index) => (
    <circle
      key={index}
      cx={x(length! / scale)}
      cy={y(force! / effort)}
      r={2.6}
      fill={back ? colours.paper : colours.ink}
      stroke={colours.ink}
      data-reading={index}
    />
  ));
}

/** The working points on the curve, each a slider. */
function WorkingPoints(props: { spring: Spring; scale: number; effort: number }) {
  const { spring, scale, effort } = props;
  const { recipe, unit } = usePartContext();
  const { colours } = useLook();
  const set = useRecipe((state) => state.set);
  const { x, y } = useScales();
  const { first: free, last, curve } = spring;
  const [low, high] = [Math.min(free, last), Math.max(free, last)];

  const move = (index: number, place: number) => {
    const held = Math.min(Math.max(place, low), high);
    const point = recipe.spring?.points?.[index];
    if (!point) return;
    const told = toldBy(spring.kind, point);
    const value =
      told === "travel"
        ? Math.abs(held - spring.first) / scale
        : told === TOLD[spring.kind][0]
          ? held / scale
          : forceAt(curve, held);
    set(`/spring/points/${index}/${told}`, Number(value.toPrecision(4)));
  };
  const drag = (index: number) => (event: PointerEvent<SVGCircleElement>) => {
    const chart = event.currentTarget.ownerSVGElement;
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !chart) return;
    move(index, x.invert(event.clientX - chart.getBoundingClientRect().left) * scale);
  };
  const step = (index: number, place: number) => (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    move(index, place + way * Math.sign(last - free) * (event.shiftKey ? 1 : 0.1) * scale);
  };
  return spring.loads.map((load, index) => (
    <circle
      key={index}
      cx={x(Math.min(Math.max(load.place, low), high) / scale)}
      cy={y(load.effort / effort)}
      r={6}
      fill={colours.sheet}
      stroke={load.utilisation > 1 ? colours.stop : colours.ink}
      strokeWidth={2}
      tabIndex={0}
      role="slider"
      aria-label={`Working point ${index + 1}`}
      aria-valuemin={low}
      aria-valuemax={high}
      aria-valuenow={load.place}
      aria-valuetext={`${placeText(spring, load.place, unit)}, ${effortText(spring, load.effort, unit)}`}
      style={{ cursor: "ew-resize", touchAction: "none" }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag(index)}
      onKeyDown={step(index, load.place)}
    />
  ));
}

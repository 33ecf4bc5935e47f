import { useLook } from "../../look/Look";
import { digits, lengthText, type LengthUnit } from "../../look/numbers";
import type { Profiles, Standard } from "../../api/client";

interface Props {
  profiles: Profiles;
  /** The profile as it is built, drawn strongest. */
  built?: number[][];
  /** The other member as it is built. */
  mate?: number[][];
  side?: "external" | "internal";
  standard: Standard | null;
  unit: LengthUnit;
  width: number;
  height: number;
}

const LEFT = 84;
const RIGHT = 132;

/**
 * A thread in the axial plane, to scale: the external member below, the internal one above, the band of each
 * one's limits, and the basic sizes as lines across.
 */
export function ProfileDrawing(props: Props) {
  const { profiles, built, mate, side, standard, unit, width, height } = props;
  const { colours } = useLook();
  const { pitch } = profiles;
  const external = profiles.external.basic;
  const internal = profiles.internal.basic;
  const all = [external, internal, built, mate].flatMap((line) => line ?? []);
  if (!all.length || width < 200) return null;
  const low = Math.min(...all.map(([, r]) => r!));
  const high = Math.max(...all.map(([, r]) => r!));
  const depth = Math.max(high - low, 1e-6);
  const inner = width - LEFT - RIGHT;
  const margin = 0.35 * depth;
  const scale = Math.min((height - 26) / (depth + 2 * margin), inner / (1.6 * pitch));
  const middle = pitch / 2;
  const x = (z: number) => LEFT + inner / 2 + (z - middle) * scale;
  const y = (r: number) => height / 2 + ((high + low) / 2 - r) * scale;
  const path = (line: number[][]) => line.map(([z, r]) => `${x(z!)},${y(r!)}`).join(" ");
  const area = (line: number[][], edge: number) =>
    `${x(line[0]![0]!)},${edge} ${path(line)} ${x(line.at(-1)![0]!)},${edge}`;
  const band = (member: "external" | "internal") => {
    const { max, min } = profiles[member];
    return max && min ? `${path(max)} ${path([...min].reverse())}` : null;
  };
  const levels: [number, string][] = [
    [external?.reduce((most, [, r]) => Math.max(most, r!), 0) ?? high, "major"],
    [profiles.pitch_radius, "pitch"],
    [internal?.reduce((least, [, r]) => Math.min(least, r!), Infinity) ?? low, "minor"],
  ];
  const diameters = standard && {
    major: standard.external.major.basic,
    pitch: standard.external.pitch.basic,
    minor: standard.internal.minor.basic,
  };
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label="Profile of the thread in the axial plane"
      style={{ display: "block" }}
    >
      <clipPath id="profile-window">
        <rect x={LEFT} y={0} width={inner} height={height} />
      </clipPath>
      <g clipPath="url(#profile-window)">
        {internal && <polygon points={area(internal, -10)} fill={colours.line} opacity={0.55} />}
        {external && (
          <polygon points={area(external, height + 10)} fill={colours.copper} opacity={0.24} />
        )}
        {(["external", "internal"] as const).map((member) => {
          const points = band(member);
          return (
            points && <polygon key={member} points={points} fill={colours.clear} opacity={0.32} />
          );
        })}
        {internal && (
          <polyline points={path(internal)} fill="none" stroke={colours.pencil} strokeWidth={1.2} />
        )}
        {external && (
          <polyline points={path(external)} fill="none" stroke={colours.ink} strokeWidth={1.2} />
        )}
        {mate && (
          <polyline points={path(mate)} fill="none" stroke={colours.pencil} strokeWidth={2.2} />
        )}
        {built && (
          <polyline points={path(built)} fill="none" stroke={colours.copper} strokeWidth={2.4} />
        )}
      </g>
      {levels.map(([radius, name]) => (
        <g key={name}>
          <path
            d={`M${LEFT} ${y(radius)}H${LEFT + inner}`}
            stroke={colours.pencil}
            strokeDasharray={name === "pitch" ? "9 3 2 3" : "3 3"}
            strokeWidth={0.8}
          />
          <text
            x={LEFT + inner + 6}
            y={y(radius) + 4}
            fill={colours.ink}
            fontSize="12"
            style={{ fontVariantNumeric: "tabular-nums" }}
          >
            {diameters
              ? `${name} ⌀ ${lengthText(diameters[name as keyof typeof diameters], unit)}`
              : name}
          </text>
        </g>
      ))}
      <g stroke={colours.ink} strokeWidth={1} fill={colours.ink} fontSize="12">
        <path d={`M${x(middle - pitch / 2)} ${height - 16}H${x(middle + pitch / 2)}`} />
        {[-0.5, 0.5].map((half) => (
          <path key={half} d={`M${x(middle + half * pitch)} ${height - 20}v8`} />
        ))}
        <text x={x(middle)} y={height - 3} textAnchor="middle" stroke="none">
          pitch {lengthText(pitch, unit)}
        </text>
        <text x={8} y={16} stroke="none" fill={colours.pencil}>
          internal
        </text>
        <text x={8} y={height - 22} stroke="none" fill={colours.pencil}>
          external
        </text>
        {standard && (
          <text x={8} y={height / 2 + 4} stroke="none">
            {standard.flank_angles.map((a) => `${digits(a)}°`).join(" / ")}
          </text>
        )}
        {side && (
          <text
            x={8}
            y={side === "internal" ? 32 : height - 38}
            stroke="none"
            fill={colours.copper}
          >
            built
          </text>
        )}
      </g>
    </svg>
  );
}

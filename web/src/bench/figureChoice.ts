/** Which figures stand beside the part, and in which order: as usual, or as somebody chose. */

import { keep, kept } from "../state/kept";

export interface Choosable {
  name: string;
  /** Whether it stands there where nobody chose. */
  usual: boolean;
}

/** What differs from the usual: figures that are put there or taken away, and the order, where it was changed. */
export interface FigureChoice {
  there: Record<string, boolean>;
  order: string[];
}

export const AS_USUAL: FigureChoice = { there: {}, order: [] };

const KEY = "metaspira.figures";

/** All figures in the order that was chosen; new ones stand after the one that they usually follow. */
export function inOrder<F extends Choosable>(figures: F[], { order }: FigureChoice): F[] {
  const placed = order.flatMap((name) => figures.filter((one) => one.name === name));
  figures.forEach((one, index) => {
    if (placed.includes(one)) return;
    const before = figures[index - 1];
    placed.splice(before ? placed.indexOf(before) + 1 : 0, 0, one);
  });
  return placed;
}

export const isThere = ({ name, usual }: Choosable, { there }: FigureChoice) =>
  there[name] ?? usual;

/** The same with a figure put there or taken away. */
export function put(
  choice: FigureChoice,
  { name, usual }: Choosable,
  there: boolean,
): FigureChoice {
  const rest = Object.entries(choice.there).filter(([one]) => one !== name);
  return {
    ...choice,
    there: Object.fromEntries(there === usual ? rest : [...rest, [name, there]]),
  };
}

/** The same with a figure moved by one place among those of now. */
export function moved(choice: FigureChoice, now: Choosable[], name: string, by: 1 | -1) {
  const names = inOrder(now, choice).map((one) => one.name);
  const at = names.indexOf(name);
  const to = at + by;
  if (to < 0 || to >= names.length) return choice;
  [names[at], names[to]] = [names[to]!, names[at]!];
  const gone = choice.order.filter((one) => !names.includes(one));
  return { ...choice, order: [...names, ...gone] };
}

export function keptChoice(): FigureChoice {
  try {
    return { ...AS_USUAL, ...(JSON.parse(kept(KEY) ?? "null") as Partial<FigureChoice> | null) };
  } catch {
    return AS_USUAL;
  }
}

export function keepChoice(choice: FigureChoice) {
  keep(KEY, JSON.stringify(choice));
}

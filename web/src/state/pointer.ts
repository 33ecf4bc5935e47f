/** JSON pointers (RFC 6901) into a recipe: reading, setting and removing without changing the original. */

type Json = unknown;

export function partsOf(pointer: string): string[] {
  return pointer
    .split("/")
    .slice(1)
    .map((part) => part.replaceAll("~1", "/").replaceAll("~0", "~"));
}

export function at(root: Json, pointer: string): Json {
  let here: Json = root;
  for (const part of partsOf(pointer)) {
    if (here === null || typeof here !== "object") return undefined;
    here = (here as Record<string, Json>)[part];
  }
  return here;
}

/** A copy of `root` with `value` at `pointer`; undefined removes what is there. */
export function put<T>(root: T, pointer: string, value: Json): T {
  return place(root, partsOf(pointer), value) as T;
}

function place(here: Json, parts: string[], value: Json): Json {
  const [first, ...rest] = parts;
  if (first === undefined) return value;
  if (Array.isArray(here)) {
    return here.map((item, index) => (index === Number(first) ? place(item, rest, value) : item));
  }
  const object = { ...((here ?? {}) as Record<string, Json>) };
  const next = place(object[first], rest, value);
  if (next === undefined) delete object[first];
  else object[first] = next;
  return object;
}

/** The deepest place that holds all in which two values differ; null where they are the same. */
export function differAt(a: Json, b: Json): string | null {
  if (Object.is(a, b)) return null;
  if (a === null || b === null || typeof a !== "object" || typeof b !== "object") return "";
  const [one, two] = [a as Record<string, Json>, b as Record<string, Json>];
  const keys = [...new Set([...Object.keys(one), ...Object.keys(two)])];
  const below = keys.flatMap((key) => {
    const place = differAt(one[key], two[key]);
    return place === null ? [] : [`/${key.replaceAll("~", "~0").replaceAll("/", "~1")}${place}`];
  });
  return below.length === 1 ? below[0]! : below.length ? "" : null;
}

/** What the published schema of recipes says of any place in a recipe: kinds, fields, choices, units. */

import schema from "../generated/recipe.schema.json";
import { at, partsOf } from "../state/pointer";

/** A node of the JSON Schema, as far as forms are made of it. */
export interface Node {
  $ref?: string;
  maxLength?: number;
  anyOf?: Node[];
  oneOf?: Node[];
  discriminator?: { mapping: Record<string, string>; propertyName: string };
  type?: string | string[];
  properties?: Record<string, Node>;
  required?: string[];
  items?: Node;
  prefixItems?: Node[];
  enum?: (string | number)[];
  const?: string;
  title?: string;
  description?: string;
  default?: unknown;
  "x-quantity"?: string;
  "x-formula"?: string;
  "x-unit"?: string;
  "x-words"?: Record<string, string>;
  "x-start"?: Record<string, number>;
  "x-still"?: number;
  "x-coats"?: Record<string, { colour: string | null }>;
  "x-stance"?: "outward" | "seated" | "steady";
}

export interface Field extends Node {
  key: string;
  optional: boolean;
}

type Json = Record<string, unknown>;

const root = schema as unknown as { $defs: Record<string, Node> };

const nameOf = (ref: string) => ref.slice(ref.lastIndexOf("/") + 1);

function resolved(node: Node): Node {
  if (!node.$ref) return node;
  const { $ref, ...beside } = node;
  return { ...root.$defs[nameOf($ref)]!, ...beside };
}

const holds = (node: Node, value: unknown): boolean => {
  if (node.anyOf || node.oneOf) return (node.anyOf ?? node.oneOf)!.some((n) => holds(n, value));
  const found = resolved(node);
  if (Array.isArray(value))
    return found.prefixItems ? found.prefixItems.length === value.length : Boolean(found.items);
  if (value !== null && typeof value === "object") return Boolean(found.properties);
  if (found.enum) return found.enum.includes(value as string);
  return found.type !== "null" && !found.properties && !found.items && !found.prefixItems;
};

/** The branch of a node that a value is meant for; a union of kinds itself where nothing is chosen yet. */
function branch(node: Node, value: unknown): Node {
  const here = resolved(node);
  const kept = ["title", "description", "x-start", "x-still"] as const;
  const named = Object.fromEntries(kept.flatMap((key) => (here[key] ? [[key, here[key]]] : [])));
  if (here.discriminator) {
    const tag = (value as Json | null | undefined)?.[here.discriminator.propertyName];
    const ref = here.discriminator.mapping[String(tag)];
    return ref ? resolved({ $ref: ref }) : here;
  }
  const branches = here.anyOf?.filter((each) => each.type !== "null");
  if (!branches) return here;
  const meant = branches.find((each) => holds(each, value)) ?? branches[0]!;
  return { ...branch(meant, value), ...named };
}

/** What the schema says of a place in a recipe, and whether it may be left out. */
export function specAt(recipe: object, place: string): Field {
  let node = resolved({ $ref: `#/$defs/${"thread" in recipe ? "ThreadRecipe" : "Recipe"}` });
  let value: unknown = recipe;
  let optional = true;
  let last = "";
  for (const key of partsOf(place)) {
    const index = Number(key);
    const inner = node.properties?.[key] ?? node.prefixItems?.[index] ?? node.items;
    if (!inner) return { key, optional: true };
    optional = node.properties ? !node.required?.includes(key) : false;
    value = (value as Json | null | undefined)?.[key];
    node = branch(inner, value);
    last = key;
  }
  return { ...node, key: last, optional };
}

/** The union of kinds at a place: each with its word and its title, in the order in which they are offered. */
export function kindsAt(recipe: object, place: string): (readonly [string, string])[] {
  const { oneOf = [], discriminator } = unionAt(recipe, place);
  const tags = new Map(
    Object.entries(discriminator?.mapping ?? {}).map(([tag, ref]) => [ref, tag]),
  );
  return oneOf.map(
    ({ $ref }) => [tags.get($ref!)!, resolved({ $ref: $ref! }).title ?? ""] as const,
  );
}

/** Under which name the schema publishes a kind that may stand at a place. */
export function kindName(recipe: object, place: string, kind: string): string {
  return nameOf(unionAt(recipe, place).discriminator?.mapping[kind] ?? "");
}

/** What the schema says of a kind that may stand at a place. */
export function kindAt(recipe: object, place: string, kind: string): Node {
  return resolved({ $ref: `#/$defs/${kindName(recipe, place, kind)}` });
}

function unionAt(recipe: object, place: string): Node {
  const parts = partsOf(place);
  const key = parts.at(-1)!;
  const above = specAt(recipe, place.slice(0, place.lastIndexOf("/")));
  const inner = resolved(above.properties?.[key] ?? above.items ?? {});
  return inner.discriminator
    ? inner
    : ((inner.anyOf ?? []).map(resolved).find((n) => n.discriminator) ?? {});
}

/** What the schema says of a field of a model that it publishes by name. */
export function fieldOf(name: string, key: string): Node {
  return branch(root.$defs[name]!.properties![key]!, undefined);
}

/** The keys of a model that it publishes by name. */
export const keysOf = (name: string) => Object.keys(root.$defs[name]!.properties ?? {});

/** The fields that a kind has of its own: those after its `kind`. */
export function ownFields(recipe: object, place: string): Field[] {
  const { properties = {}, required = [] } = specAt(recipe, place);
  const typed = (at(recipe, place) ?? {}) as Json;
  const keys = Object.keys(properties);
  return keys.slice(keys.indexOf("kind") + 1).map((key) => ({
    ...branch(properties[key]!, typed[key]),
    key,
    optional: !required.includes(key),
  }));
}

/** The choices of a field, each in words. */
export function choicesOf(field: Node): (readonly [string, string])[] {
  const words = field["x-words"] ?? {};
  return (field.enum ?? []).map((one) => [String(one), words[String(one)] ?? String(one)] as const);
}

const spoken = (key: string) => key.slice(0, 1).toUpperCase() + key.slice(1).replaceAll("_", " ");

/** A place in a recipe in the words of the forms, counted from one as they count: “Path › Points › 2 › value 1”. */
export function placeWords(recipe: object, place: string): string {
  const parts = partsOf(place);
  const words = parts.map((part, index) => {
    const here = `/${partsOf(place)
      .slice(0, index + 1)
      .join("/")}`;
    const above = specAt(recipe, here.slice(0, here.lastIndexOf("/")));
    if (above.prefixItems) return `value ${Number(part) + 1}`;
    if (/^\d+$/.test(part)) return String(Number(part) + 1);
    const { title } = above.properties?.[part] ?? {};
    return title ?? spoken(part);
  });
  return words.join(" › ");
}

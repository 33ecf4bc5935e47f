import { BufferAttribute, BufferGeometry } from "three";
import { expect, test } from "vitest";
import { footprint, GRID } from "./footprint";

const GROUND = { x: 10, y: 0, half: 4, z: 2 };

function darkest(places: number[]) {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(new Float32Array(places), 3));
  const dark = footprint([geometry], GROUND, 3);
  const at = dark.indexOf(Math.max(...dark));
  return { dark, row: Math.floor(at / GRID), column: at % GRID };
}

test("the ground is darkest under what stands on it, and softly less around", () => {
  const { dark, row, column } = darkest([12, 1, 2, 8, -1, 5]);
  expect(dark[row * GRID + column]).toBe(1);
  expect(Math.abs(column - (GRID * 6) / 8)).toBeLessThanOrEqual(3);
  expect(Math.abs(row - (GRID * 5) / 8)).toBeLessThanOrEqual(3);
  const beside = dark[row * GRID + column + 5]!;
  expect(beside).toBeGreaterThan(0);
  expect(beside).toBeLessThan(1);
  const high = dark[Math.floor((GRID * 3) / 8) * GRID + Math.floor((GRID * 2) / 8)]!;
  expect(high).toBeGreaterThan(0);
  expect(high).toBeLessThan(0.3);
});

test("what lies outside of the ground throws nothing on it", () => {
  expect(Math.max(...darkest([100, 0, 2]).dark)).toBe(0);
});

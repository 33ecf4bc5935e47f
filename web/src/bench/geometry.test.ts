import { BufferAttribute, BufferGeometry, Color } from "three";
import { describe, expect, it } from "vitest";
import type { Said } from "../api/client";
import { paint, type Piece } from "./geometry";

const lengths = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
const RED = new Color("#e0455f");

function piece(): Piece {
  const geometry = new BufferGeometry();
  geometry.setAttribute("_length", new BufferAttribute(new Float32Array(lengths), 1));
  return { geometry, body: 0, paint: RED, look: RED };
}

function told(verdict: string, where: number[][]): Said {
  return { checks: [{ verdict, where }] } as unknown as Said;
}

function colours({ geometry }: Piece): string[] {
  const found = geometry.getAttribute("color");
  return lengths.map((_, k) => new Color().fromBufferAttribute(found, k).getHexString());
}

describe("the marks of a check on the part", () => {
  it("are seen on a red part where it stops", () => {
    const red = piece();
    paint([red], told("stop", [[2, 9]]));
    const shown = colours(red);
    expect(new Set(shown.slice(2, 10)).size).toBe(2);
    expect(shown.slice(2, 10).filter((colour) => colour !== RED.getHexString())).toHaveLength(4);
    expect(shown.slice(0, 2)).toEqual([RED.getHexString(), RED.getHexString()]);
  });
  it("are of one colour where it stops on a part of another", () => {
    const copper = { ...piece(), paint: new Color("#b8693d") };
    paint([copper], told("stop", [[0, 10]]));
    expect(new Set(colours(copper)).size).toBe(1);
  });
  it("are drawn again where they changed alone", () => {
    const one = piece();
    expect(paint([one], told("clear", []))).toBe(true);
    expect(paint([one], told("clear", []))).toBe(false);
    expect(paint([one], told("stop", [[2, 9]]))).toBe(true);
  });
  it("are of one colour where it watches, and none where it is clear", () => {
    const [watched, clear] = [piece(), piece()];
    paint([watched], told("watch", [[0, 10]]));
    paint([clear], told("clear", [[0, 10]]));
    expect(new Set(colours(watched)).size).toBe(1);
    expect(colours(watched)[0]).not.toBe(RED.getHexString());
    expect(new Set(colours(clear))).toEqual(new Set([RED.getHexString()]));
  });
});

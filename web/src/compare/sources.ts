/** What stands on either side: a recipe, or a body from a file. */

import { useEffect, useState } from "react";
import { BufferAttribute, BufferGeometry, Color } from "three";
import { preview, type AnyRecipe, type ReferenceBody } from "../api/client";
import { piecesOf, type Piece } from "../bench/geometry";

export const BEFORE = "#3d6f8e";
export const AFTER = "#b8693d";

/** Which of two parts is on show. */
export type Shown = "both" | "before" | "after";

export type Source = AnyRecipe | ReferenceBody;

/** The pieces to show of a source; none where it cannot be used. */
export function usePieces(source: Source | null): Piece[] {
  const [pieces, setPieces] = useState<Piece[]>([]);
  useEffect(() => {
    const abort = new AbortController();
    piecesIn(source, abort.signal)
      .then((next) => {
        if (!abort.signal.aborted) setPieces(next);
      })
      .catch(() => !abort.signal.aborted && setPieces([]));
    return () => abort.abort();
  }, [source]);
  useEffect(() => () => pieces.forEach((piece) => piece.geometry.dispose()), [pieces]);
  return pieces;
}

async function piecesIn(source: Source | null, signal: AbortSignal): Promise<Piece[]> {
  if (!source) return [];
  if ("mesh" in source) return [pieceOf(source)];
  return piecesOf(await preview(source, signal, null, null));
}

function pieceOf(body: ReferenceBody): Piece {
  const { vertices, faces } = body.mesh;
  const places = new Float32Array(faces.flat().flatMap((index) => vertices[index]!));
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(places, 3));
  geometry.computeVertexNormals();
  geometry.computeBoundingSphere();
  return { geometry, body: 0, paint: null, look: new Color() };
}

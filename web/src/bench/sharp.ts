/** How fine a mesh is wanted for what the eye stands before. */

const CLOSE = 2.5;
const SEEN_PIXELS = 0.4;

/** The chord error, mm, that is not seen where a pixel is `pixel` mm wide, by powers of two; null where the preview is
 * as good, which is as long as the eye stands about as far off as when the part was fitted in, at `fitted` mm a pixel. */
export function sharpError(pixel: number, fitted: number): number | null {
  if (!(pixel > 0) || fitted / pixel < CLOSE) return null;
  return 2 ** Math.floor(Math.log2(SEEN_PIXELS * pixel));
}

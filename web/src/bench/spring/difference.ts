/** How far a value is from another, as a share of that, in words. */
export function difference(from: number, value: number): string {
  const share = 100 * (value / from - 1);
  const size = Math.abs(share).toFixed(1);
  if (!Number.isFinite(share)) return "";
  return `${Number(size) === 0 ? "" : share < 0 ? "−" : "+"}${size} %`;
}

/** Puts the focus on what stands there after the next drawing, where the thing that had it is gone. */
export function focusSoon(selector: string): void {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => document.querySelector<HTMLElement>(selector)?.focus()),
  );
}

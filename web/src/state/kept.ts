/** What somebody chose, kept by this browser; one that keeps nothing shows the usual next time. */

export function kept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // Nothing is lost but the choice.
  }
}

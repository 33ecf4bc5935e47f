/** Turns of those that wait: at most so many are in work at the same time, the first to come first. */
export class Turns {
  private readonly waiting = new Set<() => void>();
  private readonly working = new Set<() => void>();

  constructor(private readonly most: number) {}

  /** Wait for a turn, that `begin` is called at; what is answered ends it, or the wait for it. */
  take(begin: () => void): () => void {
    const turn = () => begin();
    this.waiting.add(turn);
    this.next();
    return () => {
      this.waiting.delete(turn);
      this.working.delete(turn);
      this.next();
    };
  }

  private next(): void {
    for (const turn of this.waiting) {
      if (this.working.size >= this.most) return;
      this.waiting.delete(turn);
      this.working.add(turn);
      turn();
    }
  }
}

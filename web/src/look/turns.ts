/** Turns of those that wait: at most so many are in work at the same time, the first to come first. */
export class Turns {
  private readonly waiting = new Set<() => void>();
  private working = 0;

  constructor(private readonly most: number) {}

  /** Wait for a turn, that `begin` is called at; what is answered ends it, or the wait for it. */
  take(begin: () => void): () => void {
    let state: "waiting" | "working" | "over" = "waiting";
    const start = () => {
      state = "working";
      this.working += 1;
      begin();
    };
    this.waiting.add(start);
    this.next();
    return () => {
      this.waiting.delete(start);
      if (state === "working") this.working -= 1;
      state = "over";
      this.next();
    };
  }

  private next(): void {
    for (const start of this.waiting) {
      if (this.working >= this.most) return;
      this.waiting.delete(start);
      start();
    }
  }
}

/** Works on the latest of many wishes: one at a time, each to its end, the ones between left out. */
export class Pump<T> {
  private next: { wish: T } | null = null;
  private latest: { wish: T } | null = null;
  private running = false;

  constructor(
    private readonly work: (wish: T, isLatest: () => boolean) => Promise<void>,
    private readonly failed: (error: unknown) => void,
  ) {}

  want(wish: T): void {
    this.next = this.latest = { wish };
    if (!this.running) void this.run();
  }

  private async run(): Promise<void> {
    this.running = true;
    while (this.next) {
      const current = this.next;
      this.next = null;
      try {
        await this.work(current.wish, () => this.latest === current);
      } catch (error) {
        this.failed(error);
      }
    }
    this.running = false;
  }
}

/**
 * Shares what many ask for at once. Whoever asks while it is being worked out gets the answer of the next run, which begins when
 * this one has ended: an answer is never older than its question, and there are two runs at a time at most.
 */
export class NextFlight<T> {
  private readonly running = new Map<string, Promise<T>>();
  private readonly next = new Map<string, Promise<T>>();

  /** @param key of what is asked; `work` is the same for all who ask by it */
  ask(key: string, work: () => Promise<T>): Promise<T> {
    const running = this.running.get(key);
    if (!running) return this.start(key, work);
    const waiting =
      this.next.get(key) ??
      running
        .catch(() => {})
        .then(() => {
          this.next.delete(key);
          return this.start(key, work);
        });
    this.next.set(key, waiting);
    return waiting;
  }

  private start(key: string, work: () => Promise<T>): Promise<T> {
    const run = work().finally(() => {
      if (this.running.get(key) === run) this.running.delete(key);
    });
    this.running.set(key, run);
    return run;
  }
}

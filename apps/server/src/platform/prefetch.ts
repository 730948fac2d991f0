/** Work that goes on while the next of its kind is made ready, one after another. What fails is told to who waits next. */
export class Prefetch {
  private last: Promise<void> = Promise.resolve();

  /** Begins it once the one before has ended. */
  async next(work: () => Promise<void>): Promise<void> {
    await this.last;
    this.last = work();
    // Until somebody waits it must not count as unheard of.
    this.last.catch(() => {});
  }

  /** When all that was begun has ended. */
  get ended(): Promise<void> {
    return this.last;
  }
}

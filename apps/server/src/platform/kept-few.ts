/** What is made once and kept as long as it is among the few that were asked for last. */
export class KeptFew<T> {
  private readonly kept = new Map<string, Promise<T>>();

  constructor(private readonly most: number) {}

  of(stamp: string, make: () => Promise<T>): Promise<T> {
    const there = this.kept.get(stamp);
    this.kept.delete(stamp);
    const made = there ?? make();
    this.kept.set(stamp, made);
    if (!there) made.catch(() => this.kept.delete(stamp));
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.most) break;
      this.kept.delete(oldest);
    }
    return made;
  }

  clear(): void {
    this.kept.clear();
  }
}

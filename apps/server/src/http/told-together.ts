/** What comes within so long after something was told waits, and is told together. */
const TOGETHER_MS = 250;

/**
 * Tells what happens at plans: at once where little happens, else four times a second, all of it in one piece. A piece costs one
 * write for each window, however much is in it, and that is what many windows cost.
 */
export class ToldTogether {
  private readonly waiting = new Map<number, Set<string>>();
  private readonly told = new Map<number, NodeJS.Timeout>();

  constructor(private readonly tell: (plan: number, payloads: readonly string[]) => void) {}

  add(plan: number, payload: string): void {
    if (!this.told.has(plan)) {
      this.flush(plan, [payload]);
      return;
    }
    const waiting = this.waiting.get(plan) ?? new Set();
    // What is said twice is told once, as the last of what was said.
    waiting.delete(payload);
    this.waiting.set(plan, waiting.add(payload));
  }

  private flush(plan: number, payloads: readonly string[]): void {
    this.tell(plan, payloads);
    this.told.set(
      plan,
      setTimeout(() => {
        const waiting = this.waiting.get(plan);
        this.waiting.delete(plan);
        this.told.delete(plan);
        if (waiting) this.flush(plan, [...waiting]);
      }, TOGETHER_MS).unref(),
    );
  }

  stop(): void {
    for (const timer of this.told.values()) clearTimeout(timer);
    this.told.clear();
    this.waiting.clear();
  }
}

/** So many are done at once when they come, fewer where others are there; of more the next is so far apart from the last. */
const AT_ONCE = 5;
const APART_MS = 1_000;
/** More so for each who has the plan open: what one window reads keeps all others waiting. */
const APART_EACH_MS = 100;
/** Windows that hear of the same do not all read in the same moment. */
const SPREAD_EACH_MS = 40;

/**
 * Does something with what came: at once, as long as little comes. Where many change something at the same time it is done
 * once a second or less often, for all that came meanwhile.
 */
export class Spaced<T> {
  private readonly waiting = new Set<T>();
  private times: number[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** @param many how many others there are, each of whom reads the same */
  constructor(
    private readonly run: (all: ReadonlySet<T>) => void,
    private readonly many: () => number = () => 0,
    private readonly random: () => number = Math.random,
  ) {}

  add(one: T, now = Date.now()): void {
    this.waiting.add(one);
    if (this.timer !== null) return;
    const last = this.times.at(-1) ?? 0;
    const others = this.many();
    const apart = Math.max(APART_MS, others * APART_EACH_MS);
    const atOnce = Math.max(1, AT_ONCE - others);
    const isBusy = now - (this.times.at(-atOnce) ?? 0) < atOnce * apart;
    const wait = (isBusy ? last + apart - now : 0) + others * SPREAD_EACH_MS * this.random();
    if (wait <= 0) this.flush();
    else this.timer = setTimeout(() => this.flush(), wait);
  }

  private flush(): void {
    this.timer = null;
    this.times = [...this.times, Date.now()].slice(-AT_ONCE);
    const all = new Set(this.waiting);
    this.waiting.clear();
    this.run(all);
  }

  stop(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.waiting.clear();
  }
}

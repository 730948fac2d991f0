import type { HoldField } from '@sprig/contracts';
import type { Change } from '../../../plan/change/index.ts';
import { holdAll } from '../../build/index.ts';

/** Values that are to be held, gathered and written together; the last one said of a field counts. */
export class Held {
  private readonly byField = new Map<HoldField, Map<string, string | number>>();

  add(rowKey: string, field: HoldField, value: string | number): void {
    const values = this.byField.get(field) ?? new Map<string, string | number>();
    this.byField.set(field, values.set(rowKey, value));
  }

  has(rowKey: string, field: HoldField): boolean {
    return this.byField.get(field)?.has(rowKey) ?? false;
  }

  /** How many differ from what was held. */
  async write(change: Change): Promise<number> {
    let held = 0;
    for (const [field, values] of this.byField)
      held += await holdAll(
        change,
        [...values].map(([rowKey, value]) => ({ rowKey, value })),
        field,
      );
    return held;
  }
}

import type { HoldField } from '@sprig/contracts';
import { readSite } from '@sprig/core/write';
import type { Change } from '../../../plan/change/index.ts';
import { holdAll } from '../../build/index.ts';
import type { Notes } from './notes.ts';

/** Values that are to be held, gathered and written together; the last one said of a field counts. */
export class Held {
  private readonly byField = new Map<HoldField, Map<string, string | number>>();

  add(rowKey: string, field: HoldField, value: string | number): void {
    const values = this.byField.get(field) ?? new Map<string, string | number>();
    this.byField.set(field, values.set(rowKey, value));
  }

  /** Where an ad or a keyword leads; what can't be read, or is none, is told. */
  addAddress(rowKey: string, address: string, notes: Notes): void {
    if (readSite(address).status === 'address') this.add(rowKey, 'finalUrl', address);
    else notes.add(address.trim() === '' ? 'no-address' : 'ad-address', address);
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

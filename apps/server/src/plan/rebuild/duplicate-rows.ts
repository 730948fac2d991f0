import type { BuiltRow, CampaignFrame, Frame, GroupFrame } from '@sprig/core/build';
import type { Findings } from '@sprig/core/findings';
import { settingsOf } from '../setting-sets.ts';
import { overlapTable, targetingOf } from '../targeting.ts';
import type { Inputs } from './load-inputs.ts';

/**
 * Finds keyword rows that stand in two enabled ad groups which can show to the same people. A plan without copies has
 * none: it makes each keyword once in each match type.
 */
export class DuplicateRows {
  private readonly places = new Map<string, number[]>();
  private readonly isOn: boolean;

  constructor(private readonly inputs: Inputs) {
    this.isOn = inputs.copies.length > 0;
  }

  visit = (group: number, { text, type, status }: BuiltRow): void => {
    if (!this.isOn || status === 'paused') return;
    const key = `${type} ${text}`;
    const there = this.places.get(key);
    if (there) there.push(group);
    else this.places.set(key, [group]);
  };

  tell({ groups, campaigns }: Frame, found: Findings): void {
    if (!this.isOn) return;
    const { settingSets, facts } = this.inputs;
    const overlaps = overlapTable(
      campaigns.map(({ settings }) => targetingOf(settingsOf(settingSets, facts, settings))),
    );
    const frameOf = (at: number) => groups[at] as GroupFrame;
    const isEnabled = (at: number) =>
      frameOf(at).status === 'enabled' &&
      (campaigns[frameOf(at).campaign] as CampaignFrame).status === 'enabled';
    for (const [key, places] of this.places) {
      const enabled = places.filter(isEnabled);
      const isTwin = enabled.some((one, at) =>
        enabled.slice(at + 1).some((other) => overlaps(frameOf(one).campaign, frameOf(other).campaign)),
      );
      if (isTwin)
        found.add('keyword-twice', {
          key: frameOf(enabled[1] as number).key,
          text: key.slice(key.indexOf(' ') + 1),
        });
    }
  }
}

import { type Facts, type SettingSet, settingSetSchema, soundFacts } from '@sprig/contracts';
import { UniqueNames } from '@sprig/core/build';
import { type CampaignSettings, type SettingValue, siteFacts } from '@sprig/core/outlets';
import { minutesAhead, readSettings, shiftSchedule } from '@sprig/core/sheets';
import type { Change } from '../../../plan/change/index.ts';
import type { Inputs } from '../../../plan/rebuild/load-inputs.ts';
import { settingsOf } from '../../../plan/setting-sets.ts';
import type { Held } from './held.ts';
import { mostOf, type Notes } from './notes.ts';

/** `text`: the patch written out, by which campaigns that say the same are told. */
type Said = { campaign: string; key: string; patch: Partial<Facts>; text: string };
const OF_SITE: ReadonlySet<string> = new Set(siteFacts);
type Body = Omit<SettingSet, 'id' | 'shared'>;

/** Takes campaign settings of sheets: what most campaigns of a new plan say is its brief's, others have a set of their own. */
export class SettingsTaken {
  private readonly said: Said[] = [];

  constructor(
    private readonly change: Change,
    private readonly inputs: Inputs,
    private readonly timeZone: string | null,
    private readonly held: Held,
    private readonly notes: Notes,
  ) {}

  /** `values`: the settings that differ, or all that are told. */
  add(campaign: string, key: string, cells: CampaignSettings, values: readonly SettingValue[]): void {
    const told = Object.fromEntries(values.map((value) => [value, cells[value]]));
    const { facts, problems } = readSettings(told);
    for (const { value, text } of problems) this.notes.add('setting', `${campaign}, ${value}: ${text}`);
    const patch = facts as Partial<Facts>;
    if (patch.schedule)
      patch.schedule = shiftSchedule(patch.schedule, this.ahead()).map((time) => ({
        ...time,
        days: [...time.days],
      }));
    if (Object.keys(patch).length > 0) this.said.push({ campaign, key, patch, text: JSON.stringify(patch) });
  }

  private ahead(): number {
    if (this.timeZone === null) return 0;
    return minutesAhead(this.inputs.facts.timeZone, this.timeZone, new Date());
  }

  /** How many campaigns have settings taken. */
  async write(isEmpty: boolean): Promise<number> {
    const { facts, settingSets } = this.inputs;
    const most = isEmpty ? mostOf(this.said.map(({ text }) => text)) : undefined;
    let common: Facts = facts;
    if (most !== undefined) {
      const read = soundFacts.safeParse({ ...facts, ...(JSON.parse(most) as Partial<Facts>) });
      if (read.success) {
        common = read.data;
        await this.change.update('facts', [1], { body: common });
      }
    }
    const sets = new Map<string, number>();
    const names = new UniqueNames();
    for (const { name } of settingSets) names.take(name);
    let taken = 0;
    for (const { campaign, key, patch, text: said } of this.said) {
      if (common !== facts && said === most) {
        taken++;
        continue;
      }
      if (siteFacts.some((name) => patch[name] !== undefined && patch[name] !== common[name]))
        this.notes.add('setting-of-site', campaign);
      if (Object.keys(patch).every((name) => OF_SITE.has(name))) continue;
      const own = this.inputs.holds.find(({ rowKey, field }) => rowKey === key && field === 'settings');
      const before = settingsOf(settingSets, common, own ? Number(own.value) : null);
      const body = bodyOf({ ...before, ...patch });
      const wanted = body && soundFacts.safeParse({ ...common, ...body });
      if (!body || !wanted?.success) {
        this.notes.add('setting', campaign);
        continue;
      }
      taken++;
      const text = JSON.stringify(body);
      const id = sets.get(text) ?? this.change.takeIds(1);
      if (!sets.has(text)) {
        sets.set(text, id);
        await this.change.insert('setting_sets', [
          { id, body: { ...body, name: names.take(campaign.trim().slice(0, 100) || 'Settings') } },
        ]);
      }
      this.held.add(key, 'settings', id);
    }
    return taken;
  }
}

/** The settings alone, as they are told by a set. */
function bodyOf(settings: object): Omit<Body, 'name'> | null {
  const read = settingSetSchema.omit({ id: true, name: true, shared: true }).strip().safeParse(settings);
  return read.success ? read.data : null;
}

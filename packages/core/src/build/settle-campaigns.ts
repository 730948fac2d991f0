/** Settings that campaigns have by a name. */
export type NamedSettings<S> = {
  id: number;
  name: string;
  body: S;
  /** Other plans have them too: they are not changed for some campaigns. */
  isShared?: boolean;
};

/** A campaign with its named settings; null: the brief's. */
export type SettledCampaign = { key: string; name: string; settings: number | null };

/** How a campaign's settings came about: they were there, were changed for all that have them, or were made. */
export type Settling<S> = {
  /** null: the brief's. */
  id: number | null;
  name: string;
  how: 'there' | 'changed' | 'made';
  body: S;
  campaigns: string[];
};

/**
 * What chosen campaigns come to have when some of their settings are changed and the others stay. Named settings that no
 * other campaign has are changed where they stand; else those are given that say just that already, the brief's before
 * named ones; else new ones are made. So no campaign that was not chosen changes, and no settings are made twice.
 * Campaigns that have it so already are left out. O(chosen + sets²).
 * @param newId the number of settings that are made
 */
export function settleCampaigns<S extends object>(
  {
    sets,
    brief,
    campaigns,
  }: { sets: readonly NamedSettings<S>[]; brief: S; campaigns: readonly SettledCampaign[] },
  chosen: ReadonlySet<string>,
  values: Partial<S>,
  newId: () => number,
): Settling<S>[] {
  const known = new Map(sets.map((set) => [set.id, set]));
  const of = ({ settings }: SettledCampaign) => (settings === null ? undefined : known.get(settings));
  const others = new Set(campaigns.filter(({ key }) => !chosen.has(key)).map((one) => of(one)?.id));
  const settled = new Map<string, Settling<S>>();
  const taken = new Set(sets.map(({ name }) => name.toLowerCase()));
  const told = new Map<string, { id: number | null; name: string }>([
    [textOf(brief), { id: null, name: '' }],
  ]);
  for (const { id, name, body } of sets) if (!told.has(textOf(body))) told.set(textOf(body), { id, name });
  const byNow = new Map<number | null, SettledCampaign[]>();
  for (const one of campaigns) {
    if (!chosen.has(one.key)) continue;
    const now = of(one)?.id ?? null;
    const list = byNow.get(now);
    if (list) list.push(one);
    else byNow.set(now, [one]);
  }
  for (const [now, list] of byNow) {
    const set = now === null ? undefined : known.get(now);
    const before = set?.body ?? brief;
    const body = withValues(before, values);
    const said = textOf(body);
    if (said === textOf(before)) continue;
    const keys = list.map(({ key }) => key);
    const there = settled.get(said);
    if (there) {
      there.campaigns.push(...keys);
      continue;
    }
    const same = told.get(said);
    if (same) settled.set(said, { ...same, how: 'there', body, campaigns: keys });
    else if (set && !set.isShared && !others.has(set.id))
      settled.set(said, { id: set.id, name: set.name, how: 'changed', body, campaigns: keys });
    else {
      const name = freeName(list.length === 1 ? (list[0]?.name ?? '') : (set?.name ?? 'Settings'), taken);
      settled.set(said, { id: newId(), name, how: 'made', body, campaigns: keys });
    }
  }
  return [...settled.values()];
}

/** The fields of the one with the values of the other, in the order in which they stand there. */
const withValues = <S extends object>(before: S, values: Partial<S>): S =>
  Object.fromEntries(
    Object.entries(before).map(([field, value]) => [
      field,
      field in values ? (values as Record<string, unknown>)[field] : value,
    ]),
  ) as S;

const textOf = (body: object): string => JSON.stringify(body);

const MOST_NAME = 110;

function freeName(wanted: string, taken: Set<string>): string {
  const name = wanted.slice(0, MOST_NAME).trim() || 'Settings';
  let free = name;
  for (let number = 2; taken.has(free.toLowerCase()); number++) free = `${name} ${number}`;
  taken.add(free.toLowerCase());
  return free;
}

import { isOfOneAccount, type ShownLook, shownLook, usualLook } from '@sprig/contracts';

/** What of an address says what is looked at. */
export const lookParams = [
  'account',
  'by',
  'from',
  'to',
  'against',
  'names',
  'figures',
  'sort',
  'down',
] as const;
type LookParams = Record<(typeof lookParams)[number], string>;

/** A look as an address says it: what is usual is left out. */
export function addressOfLook(look: ShownLook): LookParams {
  const usual = usualLook();
  const { against } = look;
  const said = typeof against === 'string' ? against : `${against.from}..${against.to}`;
  return {
    account: look.account ?? '',
    by: look.by === usual.by ? '' : look.by,
    from: look.range?.from ?? '',
    to: look.range?.to ?? '',
    against: said === usual.against ? '' : said,
    names: look.names.length === 0 ? '' : JSON.stringify(look.names.map(({ by, is }) => [by, is])),
    figures:
      look.figures.length === 0
        ? ''
        : JSON.stringify(look.figures.map(({ figure, is, than }) => [figure, is, than])),
    sort: look.sort === usual.sort ? '' : look.sort,
    down: look.down === usual.down ? '' : 'no',
  };
}

/** The look that an address says; what of it can't be read is as it usually is. */
export function lookOfAddress(params: URLSearchParams): ShownLook {
  const usual = usualLook();
  const said = (name: (typeof lookParams)[number]) => params.get(name) ?? '';
  const [from, to] = [said('from'), said('to')];
  const against = said('against');
  const [first, last] = against.split('..');
  const whole: Record<keyof ShownLook, unknown> = {
    account: said('account') || null,
    by: said('by') || usual.by,
    range: from && to ? { from, to } : null,
    against: last === undefined ? against || usual.against : { from: first, to: last },
    names: listOf(said('names')).map(([by, is]) => ({ by, is })),
    figures: listOf(said('figures')).map(([figure, is, than]) => ({ figure, is, than })),
    sort: said('sort') || usual.sort,
    down: said('down') !== 'no',
  };
  // Each by itself: one that can't be read takes none of the others with it.
  const sound = Object.entries(whole).map(([name, value]) => {
    const read = shownLook.shape[name as keyof ShownLook].safeParse(value);
    return [name, read.success ? read.data : usual[name as keyof ShownLook]];
  });
  const look = Object.fromEntries(sound) as ShownLook;
  // Accounts are looked at whole.
  return isOfOneAccount(look) ? look : { ...look, names: [], figures: [] };
}

function listOf(text: string): unknown[][] {
  if (text === '') return [];
  try {
    const list: unknown = JSON.parse(text);
    return Array.isArray(list) ? list.filter((one) => Array.isArray(one)) : [];
  } catch {
    return [];
  }
}

import type { CampaignRow, GroupPage, PlanState } from '@sprig/contracts';
import { Search } from 'lucide-react';
import { Fragment, useMemo, useState } from 'react';
import { counted } from '../../kit/format.ts';
import { Icicle } from './Icicle.tsx';
import { wayTo, wayToGroup } from './size-tree.ts';
import { type Measure, measures } from './use-build.ts';
import { useGroupSizes } from './use-group-sizes.ts';

type Props = {
  plan: PlanState;
  campaigns: readonly CampaignRow[];
  by: Measure;
  costs: ReadonlyMap<string, number>;
  day: string;
  at: string | null;
  zoom: string | null;
  page: GroupPage | null;
  go: (change: Record<string, string>) => void;
};

/** All that is built, by size: the way down to what is open, what sizes mean, a name to look for, and the picture. */
export function BuiltPicture({ plan, campaigns, by, costs, day, at, zoom, page, go }: Props) {
  const top = useGroupSizes(plan.id, campaigns, by, costs);
  const [typed, setTyped] = useState('');
  const way = useMemo(() => wayTo(top, zoom), [top, zoom]);
  const wanted = typed.trim().toLowerCase();
  const found = useMemo(() => {
    if (wanted === '') return null;
    const groups = top.flatMap((node) => node.groups);
    return groups.filter(({ name }) => name.toLowerCase().includes(wanted));
  }, [top, wanted]);
  const foundKeys = useMemo(() => found && new Set(found.map(({ key }) => key)), [found]);
  const openFirst = () => {
    const all = found ?? [];
    // Enter once more goes to the next one.
    const next = all[(all.findIndex(({ key }) => key === at) + 1) % all.length];
    if (next) go({ at: next.key, zoom: wayToGroup(top, next.key).at(-1)?.key ?? '' });
  };
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 px-4 pt-1.5 pb-1 text-[12.5px]">
        <button
          type="button"
          className={zoom ? 'text-primary hover:underline' : 'text-faint'}
          disabled={!zoom}
          onClick={() => go({ zoom: '' })}
        >
          {campaigns.length === 1 ? campaigns[0]?.name : `All ${counted(campaigns.length, 'campaign')}`}
        </button>
        {way
          .filter(({ kind }) => campaigns.length > 1 || kind !== 'campaign')
          .map(({ key, name }, place, all) => (
            <Fragment key={key}>
              <span aria-hidden>›</span>
              {place < all.length - 1 ? (
                <button
                  type="button"
                  className="text-primary hover:underline"
                  onClick={() => go({ zoom: key })}
                >
                  {name}
                </button>
              ) : (
                <span>{name}</span>
              )}
            </Fragment>
          ))}
        {zoom && way.length === 0 && top.length > 0 && <span>› what is gone</span>}
        <label className="ml-auto flex items-center gap-1.5 text-faint">
          <Search size={13} aria-hidden />
          <input
            type="search"
            className="plain-field chip w-40"
            aria-label="Find an ad group by its name"
            placeholder="find an ad group"
            value={typed}
            onChange={({ target }) => setTyped(target.value)}
            onKeyDown={({ key }) => {
              if (key === 'Enter') openFirst();
              if (key === 'Escape') setTyped('');
            }}
          />
          {found && (
            <span role="status">{found.length === 0 ? 'none' : counted(found.length, 'ad group')}</span>
          )}
        </label>
        <span className="flex items-center gap-1 text-faint">
          by
          {measures.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={by === one}
              className={`chip ${by === one ? '' : 'chip-off'}`}
              onClick={() => go({ by: one === 'searches' ? '' : one })}
            >
              {one}
            </button>
          ))}
        </span>
      </div>
      <div className="px-4 pb-1">
        <Icicle
          top={top}
          campaigns={campaigns}
          by={by}
          day={day}
          currency={plan.brief.currency}
          at={at}
          zoom={zoom}
          way={way}
          found={foundKeys}
          page={page}
          onOpen={(key) => go({ at: key })}
          onZoom={(key) => go({ zoom: key ?? '' })}
        />
      </div>
    </>
  );
}

import {
  changeExtra,
  type ExtraView,
  findPartGroups,
  listExtras,
  makeExtra,
  type PlanState,
  removeExtra,
} from '@sprig/contracts';
import { groupKeyPattern } from '@sprig/core/build';
import type { Outlet } from '@sprig/core/outlets';
import { lengthOf } from '@sprig/core/text';
import { anyExtraLimits, checkExtra, type ExtraBody, type ExtraKind, extraKinds } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { refusalOf } from '../../data/run-change.ts';
import { Help } from '../../frame/Help.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { useBuiltPlaces } from '../../plan/use-built-places.ts';
import { useMeasure } from './measure.tsx';
import { OutletsChoice } from './OutletsChoice.tsx';
import { PlaceSearch } from './PlaceSearch.tsx';

const TITLES: Record<ExtraKind, string> = {
  sitelink: 'Sitelinks',
  callout: 'Callouts',
  phone: 'Phone numbers',
};
const EMPTY: Record<ExtraKind, ExtraBody> = {
  sitelink: { kind: 'sitelink', text: '', line1: '', line2: '', address: '' },
  callout: { kind: 'callout', text: '' },
  phone: { kind: 'phone', number: '' },
};

/** What is shown beside ads: sitelinks, callouts and phone numbers, each for the plan, for campaigns or for ad groups. */
export function ExtrasView({ plan }: { plan: PlanState }) {
  const { data: extras = [] } = useQuery({
    ...question(listExtras, { params: { plan: plan.id } }),
    select: ({ extras }) => extras,
  });
  const places = useBuiltPlaces(plan.id);
  const covered = new Set(extras.flatMap(({ at, status }) => (status === 'paused' ? [] : at)));
  const bare = covered.has('plan') ? [] : places.campaigns.filter(({ key }) => !covered.has(key));
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 py-3">
      {bare.length > 0 && places.campaigns.length > 0 && (
        <p className="mb-2 text-warning">
          {bare.length === 1 ? `${bare[0]?.name} has` : `${counted(bare.length, 'campaign')} have`} no extra
          yet. Extras make an ad larger at no cost for the click.
        </p>
      )}
      <div className="grid grid-cols-[1.6fr_1fr_1fr] gap-8">
        {extraKinds.map((kind) => (
          <ExtraColumn
            key={kind}
            plan={plan}
            kind={kind}
            extras={extras.filter(({ body }) => body.kind === kind)}
            places={places}
          />
        ))}
      </div>
      <Help>
        An extra that is placed nowhere is kept for later. In a campaign that has its own, those of the plan
        are shown too.
      </Help>
    </div>
  );
}

type Places = Pick<ReturnType<typeof useBuiltPlaces>, 'all' | 'isThere'>;
type ColumnProps = { plan: PlanState; kind: ExtraKind; extras: ExtraView[]; places: Places };

function ExtraColumn({ plan, kind, extras, places }: ColumnProps) {
  const [adding, setAdding] = useState(false);
  const { extras: limits } = useMeasure().outlet.ad;
  const most = kind === 'phone' ? null : limits[kind].most;
  const shown = extras.filter(({ at }) => at.includes('plan')).length;
  return (
    <section aria-label={TITLES[kind]}>
      <h2 className="mb-1.5 flex items-center gap-2 font-semibold">
        {TITLES[kind]}
        <button
          type="button"
          className="btn btn-xs font-normal"
          aria-label={`New in ${TITLES[kind]}`}
          onClick={() => setAdding(true)}
        >
          <Plus size={13} aria-hidden /> New
        </button>
        {most !== null && shown > most && (
          <span className="font-normal text-[12px] text-warning">up to {most} are shown for the plan</span>
        )}
      </h2>
      <ul className="flex flex-col">
        {adding && (
          <ExtraRow
            plan={plan}
            extra={{ id: 0, at: ['plan'], body: EMPTY[kind], outlets: [], status: 'enabled' }}
            places={places}
            onDone={() => setAdding(false)}
          />
        )}
        {extras.map((extra) => (
          <ExtraRow key={extra.id} plan={plan} extra={extra} places={places} />
        ))}
      </ul>
      {extras.length === 0 && !adding && <Empty title="None yet">{hintOf(kind)}</Empty>}
    </section>
  );
}

const hintOf = (kind: ExtraKind) => {
  if (kind === 'sitelink') return 'A link below the ad, such as “Prices and terms”.';
  if (kind === 'callout') return 'A few words that lead nowhere, such as “Open all year”.';
  return 'A number to call, such as 01632 960123.';
};

type RowProps = { plan: PlanState; extra: ExtraView; places: Places; onDone?: () => void };

/** One extra: its texts with their room, and where it is shown. Number 0 is one that is being made. */
function ExtraRow({ plan, extra, places, onDone }: RowProps) {
  const [body, setBody] = useState<ExtraBody>(extra.body);
  const [refusal, setRefusal] = useState<string | null>(null);
  const isNew = extra.id === 0;
  const isPaused = extra.status === 'paused';
  const isChanged = isNew || JSON.stringify(body) !== JSON.stringify(extra.body);
  const { outlet, outlets: all } = useMeasure();
  const outlets = extra.outlets.length === 0 ? all : all.filter(({ key }) => extra.outlets.includes(key));
  const problems = isChanged ? checkExtra(body, anyExtraLimits) : [];
  const misfits = outletsWithout(body, outlets);
  const send = async (work: () => Promise<unknown>) => {
    const words = await refusalOf(plan.id, async () => {
      await work();
      // The row that it was made in goes before the one that it is now comes.
      onDone?.();
    });
    setRefusal(words);
    return words;
  };
  const keep = (at: string[], more: Partial<Pick<ExtraView, 'outlets' | 'status'>> = {}) =>
    send(() => {
      const { outlets: shownAt, status } = { ...extra, ...more };
      const kept = { at, body, outlets: shownAt, status };
      return isNew
        ? call(makeExtra, { params: { plan: plan.id }, body: kept })
        : call(changeExtra, { params: { plan: plan.id, extra: extra.id }, body: kept });
    });
  const field = (name: string, label: string, limit: number | null) => {
    const text = (body as unknown as Record<string, string>)[name] ?? '';
    const wrong = problems.find((problem) => problem.field === name);
    return (
      <label key={name} className="flex min-w-0 items-center gap-1">
        <input
          // biome-ignore lint/a11y/noAutofocus: a new extra was just asked for
          autoFocus={isNew && (name === 'text' || name === 'number')}
          aria-label={label}
          aria-invalid={wrong !== undefined}
          placeholder={label}
          className={`input input-sm min-w-0 flex-1 ${wrong && text !== '' ? 'input-error' : ''}`}
          value={text}
          onChange={({ target }) => setBody({ ...body, [name]: target.value } as ExtraBody)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && problems.length === 0) void keep(extra.at);
            if (event.key === 'Escape') {
              setBody(extra.body);
              onDone?.();
            }
          }}
        />
        {limit !== null && (
          <span
            className={`w-11 shrink-0 text-[12px] ${lengthOf(text) > limit ? 'text-error' : 'text-faint'}`}
          >
            {lengthOf(text)}/{limit}
          </span>
        )}
      </label>
    );
  };
  const { sitelink, callout } = outlet.ad.extras;
  return (
    <li className="border-base-200 border-t py-2">
      <div className={body.kind === 'sitelink' ? 'grid grid-cols-[1fr_1.3fr] gap-1.5' : ''}>
        {body.kind === 'sitelink' && (
          <>
            {field('text', 'Text', sitelink.text)}
            {field('address', 'Address', null)}
            {field('line1', 'First line', sitelink.line)}
            {field('line2', 'Second line', sitelink.line)}
          </>
        )}
        {body.kind === 'callout' && field('text', 'Text', callout.text)}
        {body.kind === 'phone' && field('number', 'Number', null)}
      </div>
      {(refusal || (isChanged && problems.length > 0)) && (
        <p role="alert" className="mt-1 text-[12.5px] text-error">
          {refusal ?? (isNew && isEmpty(body) ? '' : problems[0]?.words)}
        </p>
      )}
      {misfits.length > 0 && (
        <p className="mt-1 text-[12.5px] text-warning">Too long for {misfits.join(', ')}: left out there.</p>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-1 text-[12.5px]">
        {isChanged ? (
          <>
            <button
              type="button"
              className="btn btn-primary btn-xs"
              disabled={problems.length > 0}
              onClick={() => void keep(extra.at)}
            >
              {isNew ? 'Make it' : 'Keep'}
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              onClick={() => {
                setBody(extra.body);
                setRefusal(null);
                onDone?.();
              }}
            >
              Leave it
            </button>
          </>
        ) : (
          <div className="flex w-full items-start gap-1">
            <div className="flex min-w-0 flex-1 flex-wrap items-center gap-1">
              <ShownFor plan={plan.id} extra={extra} places={places} onAt={(at) => void keep(at)} />
              {(all.length > 1 || extra.outlets.length > 0) && (
                <>
                  <span className="text-faint">at</span>
                  <OutletsChoice
                    outlets={all}
                    chosen={extra.outlets}
                    onChange={(shownAt) => void keep(extra.at, { outlets: shownAt })}
                  />
                </>
              )}
            </div>
            <button
              type="button"
              className={`btn btn-ghost btn-xs shrink-0 font-normal ${isPaused ? 'text-warning' : 'text-faint'}`}
              aria-pressed={isPaused}
              title={
                isPaused
                  ? 'It is paused everywhere. Press to let it run.'
                  : 'It runs. Press to pause it everywhere.'
              }
              onClick={() => void keep(extra.at, { status: isPaused ? 'enabled' : 'paused' })}
            >
              {isPaused ? 'paused' : 'enabled'}
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs shrink-0"
              aria-label="Remove the extra"
              onClick={() => {
                void send(() => call(removeExtra, { params: { plan: plan.id, extra: extra.id } })).then(
                  (words) => words === null && toast('Removed. Ctrl+Z brings it back.'),
                );
              }}
            >
              <X size={13} />
            </button>
          </div>
        )}
      </div>
    </li>
  );
}

/** The outlets that have no room for an extra, by name. */
function outletsWithout(body: ExtraBody, outlets: readonly Outlet[]): string[] {
  const anyway = checkExtra(body, anyExtraLimits).length;
  return outlets.filter(({ ad }) => checkExtra(body, ad.extras).length > anyway).map(({ name }) => name);
}

const isEmpty = (body: ExtraBody): boolean =>
  Object.entries(body).every(([name, value]) => name === 'kind' || value === '');
type ShownProps = { plan: number; extra: ExtraView; places: Places; onAt: (at: string[]) => void };

/** So many places are told by name; an extra may have thousands. */
const NAMED = 12;

/** Where an extra is shown, to be taken away and added to. */
function ShownFor({ plan, extra, places, onAt }: ShownProps) {
  const named = extra.at.slice(0, NAMED);
  const known = new Map([
    ['plan', 'the whole plan'],
    ...places.all.map(({ key, name }) => [key, name] as const),
  ]);
  const asked = named.filter((key) => !known.has(key) && groupKeyPattern.test(key));
  const { data } = useQuery({
    ...question(findPartGroups, { params: { plan }, body: { keys: asked } }),
    enabled: asked.length > 0,
  });
  for (const { key, name, campaign } of data?.groups ?? []) known.set(key, `${campaign} › ${name}`);
  const isAsked = places.isThere && (asked.length === 0 || data !== undefined);
  return (
    <>
      <span className="text-faint">shown for</span>
      {named.map((key) => (
        <button
          key={key}
          type="button"
          className="chip"
          title="Not here any more"
          onClick={() => onAt(extra.at.filter((one) => one !== key))}
        >
          {known.get(key) ?? (isAsked ? `${key}, gone` : '…')} ×
        </button>
      ))}
      {extra.at.length > NAMED && (
        <span className="text-faint">and {counted(extra.at.length - NAMED, 'place')} more</span>
      )}
      {extra.at.length === 0 && <span className="text-faint">nobody: kept for later</span>}
      <PlaceSearch
        plan={plan}
        places={[{ key: 'plan', name: 'the whole plan' }, ...places.all]}
        without={extra.at}
        onChoose={(key) => onAt([...extra.at, key])}
      />
    </>
  );
}

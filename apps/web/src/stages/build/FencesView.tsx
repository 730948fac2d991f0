import * as api from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { scaleLinear } from 'd3';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { question } from '../../data/question.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted, short } from '../../kit/format.ts';
import { fenceChoices } from '../../plan/rule-choices.ts';
import { useShippedTo } from '../../plan/use-outlets.ts';
import { fencesAtOutlets } from './fences-at-outlets.ts';
import { fenceHelp } from './rule-words.ts';
import type { BuildActions } from './use-build.ts';

type Props = {
  plan: api.PlanState;
  layout: Document<Layout>;
  figures: api.FenceFigures | null;
  actions: BuildActions;
  onOpen: (key: string) => void;
  onTry: (search: string) => void;
};

/** The fences of the plan: what they cost, who would have stolen from whom, and whether they hold. */
export function FencesView({ plan, layout, figures, actions, onOpen, onTry }: Props) {
  const kind = layout.value?.fences ?? 'off';
  const { data: counts } = useQuery({
    ...question(api.countFences, { params: { plan: plan.id } }),
    placeholderData: keepPreviousData,
  });
  const { data: audit } = useQuery({
    ...question(api.viewAudit, { params: { plan: plan.id } }),
    placeholderData: keepPreviousData,
  });
  const { data: view } = useQuery({
    ...question(api.viewFences, { params: { plan: plan.id } }),
    placeholderData: keepPreviousData,
  });
  const choose = async (next: Layout['fences']) => {
    const words = await layout.edit('fences', next);
    if (words) toast.error(words);
  };
  const made = (figures?.exact ?? 0) + (figures?.phrase ?? 0);
  const atOutlets = fencesAtOutlets(useShippedTo(plan.id) ?? [], kind, counts?.mostInGroup ?? 0);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_430px] overflow-hidden">
      <section aria-label="Who would have stolen from whom" className="min-h-0 overflow-auto px-4 py-2">
        <p className="text-[14px] leading-8">
          Each search is kept in its own ad group by{' '}
          <ChoiceChip
            label="Fences"
            value={kind}
            choices={fenceChoices}
            onChoose={(next) => void choose(next)}
          />
          {counts && (
            <span className="text-[12.5px] text-faint">
              {' '}
              Exact would be {counted(counts.exact, 'negative')}, tight {count(counts.tight)}:{' '}
              {(counts.exact / Math.max(1, counts.keywords)).toFixed(1)} to a keyword, at most{' '}
              {count(counts.mostInGroup)} in an ad group, which may hold {count(counts.limit)}
            </span>
          )}
        </p>
        <Help>{fenceHelp[kind]}</Help>
        {counts && counts.exact > counts.keywords * 5 && (
          <p className="text-[12.5px] text-warning">
            More than five to a keyword: ad groups speak of the same. Fewer, tighter themes or lanes apart
            need less.
          </p>
        )}
        {figures && figures.left > 0 && (
          <p className="text-[12.5px] text-warning">
            {counted(figures.left, 'fence')} would go over what an ad group may hold and were left out; the
            most searched were made.
          </p>
        )}
        {atOutlets.map((words) => (
          <p key={words} className="text-[12.5px] text-warning">
            {words}
          </p>
        ))}
        {view && view.pairs.length > 0 ? (
          <Stolen view={view} onOpen={onOpen} />
        ) : (
          <p className="py-6 text-faint">{noFenceWords(kind === 'off', audit?.failed === 0)}</p>
        )}
      </section>
      <section aria-label="Fence audit" className="flex min-h-0 flex-col border-hair border-l px-4 py-2">
        <h3 className="font-semibold text-[13px]">Fence audit</h3>
        {audit ? (
          <>
            <p className="flex items-baseline gap-2">
              <span
                className={`font-semibold text-[26px] ${audit.kept === audit.tried ? 'text-primary' : 'text-warning'}`}
              >
                {percentOf(audit.kept, audit.tried)}
              </span>
              <span className="text-[12.5px] text-faint">
                of {counted(audit.tried, 'keyword')} can be answered by their own ad group only: the keyword
                as written; plurals and other orders may still cross
              </span>
            </p>
            {made > 0 && (
              <p className="text-[12.5px] text-faint">
                {counted(figures?.exact ?? 0, 'negative exact')}
                {(figures?.phrase ?? 0) > 0 && <> and {count(figures?.phrase)} negative phrases</>} in{' '}
                {counted(figures?.groups ?? 0, 'ad group')}
              </p>
            )}
            <Failures
              audit={audit}
              actions={actions}
              kind={kind}
              onOpen={onOpen}
              onTry={onTry}
              onFence={() => void choose('exact')}
            />
          </>
        ) : (
          <p className="text-faint">Trying every keyword …</p>
        )}
      </section>
    </div>
  );
}

/** Rounded down, so that 100% is all of them. */
const percentOf = (part: number, whole: number): string =>
  whole === 0 ? '–' : `${(Math.floor((part / whole) * 1_000) / 10).toLocaleString('en')}%`;

const ROWS = 14;
const ROW = 30;
const MIDDLE = 220;

/** Ad groups that would take searches at the left, those that keep them at the right; as thick as the searches. */
function Stolen({ view, onOpen }: { view: api.FencesView; onOpen: (key: string) => void }) {
  const [over, setOver] = useState<string | null>(null);
  const pairs = view.pairs.slice(0, 60);
  const left = order(pairs.map(({ from, fromName, searches }) => ({ key: from, name: fromName, searches })));
  const right = order(
    pairs.map(({ keeper, keeperName, searches, fences }) => ({
      key: keeper,
      name: keeperName,
      searches,
      fences,
    })),
  );
  const shown = pairs.filter(({ from, keeper }) => left.has(from) && right.has(keeper));
  const most = Math.max(1, ...shown.map(({ searches }) => searches));
  const thick = scaleLinear().domain([0, most]).range([1.2, 16]);
  const height = Math.max(left.size, right.size) * ROW;
  const y = (at: number) => at * ROW + ROW / 2;
  const end = (side: 'left' | 'right', [key, { at, name }]: [string, Side]) => (
    <button
      key={key}
      type="button"
      className={`absolute flex h-[26px] items-center gap-1.5 truncate rounded px-2 text-[12.5px] hover:bg-wash ${over === key ? 'bg-wash' : 'bg-base-200'} ${side === 'left' ? 'left-0 justify-end text-right' : 'right-0'}`}
      style={{ top: at * ROW + 2, width: `calc(50% - ${MIDDLE / 2}px)` }}
      title={name}
      onMouseEnter={() => setOver(key)}
      onMouseLeave={() => setOver(null)}
      onFocus={() => setOver(key)}
      onBlur={() => setOver(null)}
      onClick={() => onOpen(key)}
    >
      <span className="truncate">{name}</span>
    </button>
  );
  return (
    <>
      <div className="mt-2 flex justify-between text-[12px] text-faint">
        <span>would have answered</span>
        <span>searches that stay with</span>
      </div>
      <div className="relative" style={{ height }}>
        {[...left].map((one) => end('left', one))}
        <svg
          className="absolute top-0"
          style={{ left: `calc(50% - ${MIDDLE / 2}px)`, width: MIDDLE, height }}
          viewBox={`0 0 ${MIDDLE} ${height}`}
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          {shown.map(({ from, keeper, searches }) => {
            const [a, b] = [y(left.get(from)?.at ?? 0), y(right.get(keeper)?.at ?? 0)];
            const isOver = over === from || over === keeper;
            return (
              <path
                key={`${from} ${keeper}`}
                d={`M0 ${a} C ${MIDDLE / 2} ${a}, ${MIDDLE / 2} ${b}, ${MIDDLE} ${b}`}
                className={`fill-none ${isOver ? 'stroke-primary' : 'stroke-primary/30'}`}
                strokeWidth={thick(searches)}
              />
            );
          })}
        </svg>
        {[...right].map((one) => end('right', one))}
      </div>
      <details className="mt-2 text-[12.5px]">
        <summary className="cursor-pointer text-faint">
          {counted(view.pairCount, 'pair')} of ad groups as a table
          {view.pairs.length < view.pairCount ? `, the ${count(view.pairs.length)} most searched` : ''}
        </summary>
        <table className="mt-1 w-full">
          <thead className="text-faint">
            <tr>
              <th className="text-left font-normal">Would have answered</th>
              <th className="text-left font-normal">Stays with</th>
              <th className="text-right font-normal">Fences</th>
              <th className="text-right font-normal">Searches</th>
              <th className="pl-4 text-left font-normal">Such as</th>
            </tr>
          </thead>
          <tbody>
            {view.pairs.map(({ from, fromName, keeper, keeperName, fences, searches, samples }) => (
              <tr key={`${from} ${keeper}`} className="h-6 border-base-200 border-b">
                <td className="max-w-48 truncate">{fromName}</td>
                <td className="max-w-48 truncate">{keeperName}</td>
                <td className="text-right">{count(fences)}</td>
                <td className="text-right">{short(searches)}</td>
                <td className="max-w-64 truncate pl-4 text-faint">{samples.join(', ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
  );
}

type Side = { at: number; name: string };

/** The groups of one side, the most searched first, as many as there is room for. */
function order(list: { key: string; name: string; searches: number }[]): Map<string, Side> {
  const groups = new Map<string, { name: string; searches: number }>();
  for (const { key, name, searches } of list)
    groups.set(key, { name, searches: (groups.get(key)?.searches ?? 0) + searches });
  return new Map(
    [...groups]
      .sort(([, a], [, b]) => b.searches - a.searches)
      .slice(0, ROWS)
      .map(([key, { name }], at) => [key, { at, name }]),
  );
}

function Failures({
  audit,
  actions,
  kind,
  onOpen,
  onTry,
  onFence,
}: {
  audit: api.AuditView;
  actions: BuildActions;
  kind: Layout['fences'];
  onOpen: (key: string) => void;
  onTry: (search: string) => void;
  onFence: () => void;
}) {
  if (audit.failed === 0)
    return audit.tried > 0 ? (
      <p className="text-[12.5px] text-primary">Every one of them stays at home.</p>
    ) : null;
  return (
    <>
      <div className="flex items-center gap-2 py-1">
        <span className="text-[12.5px]">{counted(audit.failed, 'keyword')} may go elsewhere</span>
        {kind === 'off' && (
          <button type="button" className="btn btn-primary btn-xs" onClick={onFence}>
            Make exact fences
          </button>
        )}
      </div>
      <ul className="min-h-0 flex-1 divide-y divide-base-200 overflow-auto text-[12.5px]">
        {audit.failures.map(({ key, text, group, groupName, blockedBy, others }) => (
          <li key={key} className="py-1">
            <p className="flex items-baseline justify-between gap-2">
              <button
                type="button"
                className="truncate font-semibold hover:underline"
                onClick={() => onTry(text)}
              >
                {text}
              </button>
              <button
                type="button"
                className="min-h-6 max-w-40 truncate text-faint hover:underline"
                onClick={() => onOpen(group)}
              >
                {groupName}
              </button>
            </p>
            {blockedBy && (
              <p className="flex justify-between gap-2 text-error">
                {blockedBy} blocks it in its own ad group.
                <Link to="../prune?view=negatives" className="shrink-0 text-primary hover:underline">
                  Judge it in Prune
                </Link>
              </p>
            )}
            {others.map((other) => (
              <p key={other.key} className="flex items-center justify-between gap-2">
                <span className="truncate">
                  {other.has ? 'also a keyword of' : 'can be answered by'} {other.name}
                </span>
                <button
                  type="button"
                  className="btn btn-xs shrink-0 font-normal"
                  onClick={() =>
                    other.has
                      ? void actions.many(
                          [twinOf(key, other.key)],
                          'status',
                          'paused',
                          `Paused ${text} in ${other.name}.`,
                        )
                      : void actions.addNegatives([other.key], [{ text, type: 'exact' }])
                  }
                >
                  {other.has ? 'Pause it there' : 'Keep it out there'}
                </button>
              </p>
            ))}
          </li>
        ))}
      </ul>
      {audit.failures.length < audit.failed && (
        <p className="text-[12px] text-faint">and {count(audit.failed - audit.failures.length)} more</p>
      )}
    </>
  );
}

/** The same keyword's row in another group: a copy's keys begin with what the copy's group's do. */
const twinOf = (row: string, group: string): string =>
  (/^(?:x\d+\.)*/.exec(group)?.[0] ?? '') + row.replace(/^(?:x\d+\.)*/, '');

function noFenceWords(isOff: boolean, nothingGoesElsewhere: boolean): string {
  if (!isOff) return 'No ad group can answer what belongs to another one.';
  return nothingGoesElsewhere
    ? 'Fences are off: nobody is kept out, and as the plan is now nobody needs to be.'
    : 'Fences are off: nobody is kept out. What may go elsewhere stands beside; choose exact fences to keep it at home.';
}

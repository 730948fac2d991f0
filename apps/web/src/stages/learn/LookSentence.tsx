import {
  accountCode,
  type Look,
  type LookAnswer,
  type ReportAccount,
  readLookNames,
  type ShownLook,
} from '@sprig/contracts';
import { lookGroupings, type ResultFigure, resultFigures } from '@sprig/core/learn';
import { useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useId, useState } from 'react';
import { question } from '../../data/question.ts';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { figureAt, figureWords, grainText, typedFigure } from '../../plan/results/result-words.ts';
import { conditionText, groupingWords, groupName, isAsLong, readFigure, toldDaysText } from './look-words.ts';
import { RangeChips } from './RangeChips.tsx';

type Props = {
  plan: number;
  look: Look;
  found: LookAnswer | undefined;
  accounts: readonly ReportAccount[];
  onChange: (part: Partial<ShownLook>) => void;
};

type Narrowing = { kind: 'name'; by: Look['names'][number]['by'] } | { kind: 'figure'; figure: ResultFigure };

/** What is looked at, as a sentence: every part of it is changed in its place. */
export function LookSentence({ plan, look, found, accounts, onChange }: Props) {
  const [adding, setAdding] = useState<Narrowing | null>(null);
  const currency = found?.account?.currency ?? 'EUR';
  const code = found?.account ? accountCode(found.account) : '';
  return (
    <LookLine>
      <ByChip by={look.by} onChange={onChange} />
      {look.names.map(({ by, is }, at) => (
        <Condition
          key={`${by} ${is}`}
          label={`${groupingWords[by][0]} ${groupName(by, is)}`}
          onTakeAway={() => onChange({ names: look.names.filter((_, n) => n !== at) })}
        >
          of {groupingWords[by][0]} <b>{groupName(by, is)}</b>
        </Condition>
      ))}
      <span>in</span>
      {accounts.length > 1 ? (
        <ChoiceChip
          label="Account"
          value={code}
          choices={accounts.map((one) => ({
            value: accountCode(one),
            words: `${one.name} (${one.currency})`,
          }))}
          onChoose={(account) => onChange({ account })}
        />
      ) : (
        <b>{found?.account?.name ?? '…'}</b>
      )}
      <RangeChips look={look} found={found} onChange={onChange} />
      {look.figures.map((condition, at) => (
        <Condition
          // biome-ignore lint/suspicious/noArrayIndexKey: the same may be said twice
          key={at}
          label={conditionText(condition, currency)}
          onTakeAway={() => onChange({ figures: look.figures.filter((_, n) => n !== at) })}
        >
          {figureWords[condition.figure]}{' '}
          <ChoiceChip
            label={`${figureWords[condition.figure]} is`}
            value={condition.is}
            choices={[
              { value: 'over', words: 'over' },
              { value: 'under', words: 'under' },
            ]}
            onChoose={(is) =>
              onChange({ figures: look.figures.map((one, n) => (n === at ? { ...one, is } : one)) })
            }
          />{' '}
          <FigureChip
            figure={condition.figure}
            value={condition.than}
            onKeep={(than) =>
              onChange({ figures: look.figures.map((one, n) => (n === at ? { ...one, than } : one)) })
            }
          />
        </Condition>
      ))}
      {adding?.kind === 'name' && (
        <NameField
          plan={plan}
          account={look.account}
          by={adding.by}
          onDone={(is) => {
            setAdding(null);
            if (is !== null) onChange({ names: [...look.names, { by: adding.by, is }] });
          }}
        />
      )}
      <Menu
        label="Narrow it down"
        className="btn btn-ghost btn-xs font-normal"
        items={[
          ...resultFigures
            .filter((figure) => figureAt(figure, found?.totals ?? []) !== null)
            .map((figure) => ({
              words: figureWords[figure],
              hint: 'over or under',
              run: () =>
                onChange({
                  figures: [
                    ...look.figures,
                    {
                      figure,
                      is: 'over' as const,
                      than: roundly(figureAt(figure, found?.totals ?? []), figure),
                    },
                  ],
                }),
            })),
          ...lookGroupings.flatMap((by) =>
            by === 'day' || by === 'weekday'
              ? []
              : [
                  {
                    words: groupingWords[by][0],
                    hint: 'only one',
                    run: () => setAdding({ kind: 'name', by }),
                  },
                ],
          ),
        ]}
      >
        <Plus size={13} aria-hidden /> and …
      </Menu>
      {found?.grain && (
        <span className="ml-auto text-[12.5px] text-faint">
          {found.days && (found.days.least < found.days.of || found.days.most < found.days.of) && (
            <span className="text-warning">{toldDaysText(found.days)} told · </span>
          )}
          {found.daysBefore && !isAsLong(found) && (
            <span
              className="text-warning"
              title="Sums of more days are not held against sums of fewer; what is worked out is"
            >
              before: {toldDaysText(found.daysBefore)} told ·{' '}
            </span>
          )}
          {grainText(found.grain)}
        </span>
      )}
    </LookLine>
  );
}

/** The line in which what is looked at is said. */
export const LookLine = ({ children }: { children: ReactNode }) => (
  <section
    aria-label="What is looked at"
    className="flex shrink-0 flex-wrap items-center gap-x-1.5 gap-y-1 border-hair border-b px-4 py-2 leading-7"
  >
    {children}
  </section>
);

/** What is told apart. Accounts are looked at whole: conditions are of rows of one. */
export const ByChip = ({
  by,
  onChange,
}: {
  by: ShownLook['by'];
  onChange: (part: Partial<ShownLook>) => void;
}) => (
  <ChoiceChip
    label="Tell apart by"
    value={by}
    choices={[
      ...lookGroupings.map((value) => ({ value, words: groupingWords[value][1] })),
      { value: 'account' as const, words: 'accounts of outlets' },
    ]}
    onChoose={(next) => onChange(next === 'account' ? { by: next, names: [], figures: [] } : { by: next })}
  />
);

/** Where a condition begins: what counts are small rows are looked for among, a tenth of a thousandth of all; else the average. */
function roundly(total: number | null, figure: ResultFigure): number {
  const value = total ?? 0;
  const isCount = figure === 'impressions' || figure === 'clicks' || figure === 'cost' || figure === 'value';
  const begin = isCount ? value / 1_000 : value;
  const unit = 10 ** Math.floor(Math.log10(Math.max(Math.abs(begin), 1e-6)));
  return Number((Math.round(begin / unit) * unit).toPrecision(6));
}

const Condition = ({
  label,
  onTakeAway,
  children,
}: {
  label: string;
  onTakeAway: () => void;
  children: ReactNode;
}) => (
  <span className="inline-flex items-center gap-0.5 rounded-md bg-wash py-0.5 pr-0.5 pl-2">
    <span>{children}</span>
    <button
      type="button"
      className="btn btn-ghost btn-square btn-xs"
      aria-label={`Take away: ${label}`}
      onClick={onTakeAway}
    >
      <X size={12} aria-hidden />
    </button>
  </span>
);

function FigureChip({
  figure,
  value,
  onKeep,
}: {
  figure: ResultFigure;
  value: number;
  onKeep: (value: number) => void;
}) {
  return (
    <TextChip
      label={`${figureWords[figure]} than`}
      value={typedFigure(figure, value)}
      read={(typed) => readFigure(figure, typed)}
      width={7}
      onKeep={async (kept) => {
        onKeep(Number(kept));
        return null;
      }}
    />
  );
}

/** A name that is looked for among those that the reports tell. */
function NameField({
  plan,
  account,
  by,
  onDone,
}: {
  plan: number;
  account: string | null;
  by: Look['names'][number]['by'];
  onDone: (name: string | null) => void;
}) {
  const list = useId();
  const [typed, setTyped] = useState('');
  const { data } = useQuery(
    question(readLookNames, { params: { plan }, body: { account, by, like: typed } }),
  );
  const names = data?.names ?? [];
  return (
    <span className="inline-flex items-center gap-1 rounded-md bg-wash py-0.5 pl-2">
      of {groupingWords[by][0]}
      <input
        // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
        autoFocus
        list={list}
        className="plain-field chip w-44"
        aria-label={`Of which ${groupingWords[by][0]}`}
        placeholder={names[0] ?? ''}
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onKeyDown={({ key }) => {
          if (key === 'Escape') onDone(null);
          if (key === 'Enter' && typed.trim() !== '') onDone(typed.trim());
        }}
        onBlur={() => onDone(typed.trim() === '' ? null : typed.trim())}
      />
      <datalist id={list}>
        {names.map((name) => (
          <option key={name} value={name}>
            {groupName(by, name)}
          </option>
        ))}
      </datalist>
    </span>
  );
}

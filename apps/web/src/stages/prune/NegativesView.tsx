import type { Negative } from '@sprig/contracts';
import { problemWords } from '@sprig/contracts';
import { type NegativeType, negativeTypeOf, readNotation, writeNegative } from '@sprig/core/match';
import { useMemo, useState } from 'react';
import { useWidths } from '../../data/me.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted, short } from '../../kit/format.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { Refused } from '../../kit/Refused.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { useEntry } from '../../kit/use-entry.ts';
import { useBuiltPlaces } from '../../plan/use-built-places.ts';
import type { NegativeEffect } from '../../pool/pruning.ts';
import { useExamples } from '../../pool/use-examples.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import type { PruneActions } from './use-prune.ts';

type Props = {
  plan: number;
  pool: ReturnType<typeof usePool>;
  negatives: Negative[];
  actions: PruneActions;
};

/** `effect` is null until it is worked out. */
type Row = Negative & { effect: NegativeEffect | null };

/** The plan's negatives: what each blocks, and where one stands against a keyword of the plan's own. */
export function NegativesView({ plan, pool, negatives, actions }: Props) {
  const examples = useExamples();
  const selection = useSelection<number>();
  const widths = useWidths('negatives');
  const { data: effects } = useWorked(
    () => pool.worker.negativeEffects(negatives),
    `negatives:${pool.revision}:${negatives.map(({ id, reason }) => `${id}${reason}`).join()}`,
  );
  const rows = useMemo(() => {
    const effectOf = ({ id }: Negative) => effects?.[id] ?? null;
    const rank = ({ effect }: Row) => [effect?.conflicts ?? 0, effect?.blocks ?? 0] as const;
    return negatives
      .map((negative): Row => ({ ...negative, effect: effectOf(negative) }))
      .sort((a, b) => rank(b)[0] - rank(a)[0] || rank(b)[1] - rank(a)[1] || a.id - b.id);
  }, [negatives, effects]);
  const source = useMemo<RowSource<Row, number>>(() => {
    const byId = new Map(rows.map((row) => [row.id, row]));
    const fetchPage = async (ids: number[]) => ids.flatMap((id) => byId.get(id) ?? []);
    return {
      ids: rows.map(({ id }) => id),
      version: rows
        .map(({ id, effect, reason }) => `${id}:${effect?.blocks}:${effect?.conflicts}:${reason}`)
        .join(),
      loading: false,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ id }) => id,
    };
  }, [rows]);
  const columns = useMemo(() => negativeColumns(actions), [actions]);
  const conflicts = rows.filter(({ effect }) => effect && effect.conflicts > 0).length;
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const remove = (ids: number[]) =>
    void actions.remove(ids, `Removed ${counted(ids.length, 'negative keyword')}.`).then(selection.clear);
  return (
    <>
      <AddNegatives plan={plan} actions={actions} />
      <div className="flex h-9 shrink-0 items-center gap-3 px-4">
        <span className="text-faint">{counted(negatives.length, 'negative keyword')}</span>
        {conflicts > 0 && (
          <span className="text-error" role="status">
            {conflicts === 1 ? 'One stands' : `${count(conflicts)} stand`} against keywords of the plan’s own:
            that stops shipping
          </span>
        )}
        {chosen.length > 0 && (
          <button type="button" className="btn btn-sm ml-auto" onClick={() => remove(chosen)}>
            Remove {counted(chosen.length, 'negative keyword')}
          </button>
        )}
      </div>
      <Table
        label="Negative keywords"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        actions={{ Delete: remove }}
        empty={
          <Empty title="No negative keywords yet">
            Judge words in the word review, or type some above: -free, -"how to make", -[used {examples.word}
            ].
          </Empty>
        }
      />
    </>
  );
}

function negativeColumns(actions: PruneActions): TableColumn<Row>[] {
  return [
    {
      id: 'text',
      heading: 'Negative keyword',
      text: ({ text, type }) => writeNegative(text, type),
      cell: ({ text }) => <span className="px-1">{text}</span>,
    },
    {
      id: 'type',
      heading: 'Match type',
      width: 120,
      text: ({ type }) => type,
      cell: ({ type }) => (
        <span className="inline-flex items-center gap-1.5">
          <ReachBars type={type} /> {type}
        </span>
      ),
    },
    {
      id: 'reason',
      heading: 'Why',
      width: 190,
      text: ({ reason }) => (reason === 'block' ? 'block word' : 'by hand'),
      cell: ({ id, text, reason }) => (
        <ChoiceChip
          label={`What ${text} does`}
          value={reason}
          choices={[
            { value: 'block', words: 'block word' },
            { value: 'hand', words: 'by hand' },
          ]}
          onChoose={(value) => void actions.setReason([id], value)}
        />
      ),
    },
    {
      id: 'blocks',
      heading: 'Keeps out',
      width: 190,
      right: true,
      text: ({ effect }) => (effect ? String(effect.blocks) : ''),
      cell: ({ effect, reason }) => {
        if (reason !== 'block') return <span className="text-faint">–</span>;
        if (!effect) return <Awaited />;
        return (
          <span>
            {counted(effect.blocks, 'keyword')}{' '}
            <span className="text-faint">{short(effect.searches)} searches</span>
          </span>
        );
      },
    },
    {
      id: 'conflicts',
      heading: 'Against own keywords',
      width: 330,
      text: ({ effect }) => (effect ? String(effect.conflicts) : ''),
      cell: (row) => <Conflicts row={row} actions={actions} />,
    },
  ];
}

const Awaited = () => (
  <span className="text-faint" title="Being worked out">
    …
  </span>
);

/** The plan's own keywords that a negative would keep out of their own ad groups. */
function Conflicts({ row, actions }: { row: Row; actions: PruneActions }) {
  const { id, text, effect } = row;
  if (!effect) return <Awaited />;
  const { conflicts, sample } = effect;
  if (conflicts === 0) return <span className="text-faint">none</span>;
  return (
    <span className="flex items-center gap-2">
      <span className="min-w-0 truncate text-error" title={sample.join(', ')}>
        {count(conflicts)}: {sample.join(', ')}
      </span>
      <button
        type="button"
        className="btn btn-xs shrink-0"
        onClick={() => void actions.setReason([id], 'block', `${text} blocks them now.`)}
      >
        Block them
      </button>
    </span>
  );
}

type Typed = { negatives: { text: string; type: NegativeType }[] } | { words: string };

/** Negatives as typed or pasted, in any notation, with or without the minus. */
function readNegatives(typed: string): Typed {
  const negatives: { text: string; type: NegativeType }[] = [];
  for (const [at, line] of typed.split('\n').entries()) {
    if (line.trim() === '') continue;
    const read = readNotation(line);
    if (read.status === 'problem') return { words: `Line ${at + 1}: ${problemWords(read)}` };
    negatives.push({
      text: read.text,
      type: negativeTypeOf(read.type),
    });
  }
  return { negatives };
}

function AddNegatives({ plan, actions }: { plan: number; actions: PruneActions }) {
  const examples = useExamples();
  const [reason, setReason] = useState<'block' | 'hand'>('block');
  /** The key of a campaign; empty: all of the plan's. */
  const [campaign, setCampaign] = useState('');
  const { campaigns } = useBuiltPlaces(plan);
  const name = campaigns.find(({ key }) => key === campaign)?.name;
  const entry = useEntry(async (text) => {
    const sent = readNegatives(text);
    if (!('negatives' in sent)) return false;
    const words = `Added ${counted(sent.negatives.length, 'negative keyword')}`;
    return name === undefined
      ? actions.add(sent.negatives, reason, {}, `${words}.`)
      : actions.place(
          campaign,
          sent.negatives,
          `${words} to the campaign ${name}. They stand on its page in Build.`,
        );
  });
  const { typed } = entry;
  const read = readNegatives(typed);
  const ready = 'negatives' in read ? read.negatives.length : 0;
  const add = async () => {
    if (ready > 0) await entry.send(typed);
  };
  return (
    <div className="grid shrink-0 grid-cols-[1fr_auto] items-start gap-4 border-hair border-b px-4 py-2">
      <div>
        <textarea
          aria-label="Negative keywords to add"
          className={`textarea min-h-9 w-full resize-y py-1.5 leading-5 ${'words' in read ? 'textarea-error' : ''}`}
          rows={Math.min(8, Math.max(1, typed.split('\n').length))}
          placeholder={`Type or paste: free, -"how to make", [used ${examples.word}]; one to a line`}
          spellCheck={false}
          value={typed}
          onChange={(event) => entry.type(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey) {
              event.preventDefault();
              void add();
            }
          }}
        />
        <Refused entry={entry} />
        {'words' in read ? (
          <p role="alert" className="text-[12px] text-error">
            {read.words}
          </p>
        ) : (
          <Help>
            Enter adds; Shift Enter begins a new line. A plain word is broad: it blocks every search that
            holds it.
          </Help>
        )}
      </div>
      <div className="flex items-center gap-2 pt-1">
        {name === undefined && (
          <ChoiceChip
            label="What it does"
            value={reason}
            choices={[
              { value: 'block', words: 'block own keywords too' },
              { value: 'hand', words: 'stand in campaigns only' },
            ]}
            onChoose={setReason}
          />
        )}
        <ChoiceChip
          label="Where it stands"
          value={name === undefined ? '' : campaign}
          choices={[
            { value: '', words: 'in all campaigns' },
            ...campaigns.map((one) => ({ value: one.key, words: `in ${one.name} only` })),
          ]}
          onChoose={setCampaign}
        />
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={ready === 0}
          onClick={() => void add()}
        >
          Add {counted(ready, 'negative keyword')}
        </button>
      </div>
    </div>
  );
}

import { MOST_LANES } from '@sprig/contracts';
import { type Lane, type Layout, takesAll } from '@sprig/core/build';
import { matchTypes, setOf } from '@sprig/core/match';
import { type FunnelStage, funnelStages } from '@sprig/core/text';
import { Copy, X } from 'lucide-react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip, PercentChip, TextChip } from '../../kit/chips.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { spreadChoices } from '../../plan/rule-choices.ts';
import { readCount, why } from './rule-words.ts';

type Props = {
  layout: Document<Layout>;
  sources: readonly { id: number; name: string }[];
};

/** How match types are laid out: together or apart, each lane with its types, its step and its keywords. */
export function Lanes({ layout, sources }: Props) {
  const value = layout.value as Layout;
  const { lanes, spread } = value;
  const keep = async (next: Lane[]) => {
    const words = await layout.edit('lanes', next);
    if (words) toast.error(words);
    return words;
  };
  const set = (id: number, patch: Partial<Lane>) =>
    keep(lanes.map((lane) => (lane.id === id ? { ...lane, ...patch } : lane)));
  const nextId = Math.max(0, ...lanes.map(({ id }) => id)) + 1;
  const choose = async (next: Layout['spread']) => {
    // Apart, lanes need types of their own: one lane of several becomes a lane for each.
    const [only] = lanes;
    if (next !== 'together' && lanes.length === 1 && only) {
      const apart = matchTypes
        .filter((_, at) => only.types & (1 << at))
        .map((type, at) => ({
          ...only,
          id: at === 0 ? only.id : nextId + at - 1,
          name: matchWords[type][0]?.toUpperCase() + matchWords[type].slice(1),
          types: setOf([type]),
        }));
      const words = await keep(apart);
      if (words) return;
    }
    const words = await layout.edit('spread', next);
    if (words) toast.error(words);
  };
  return (
    <div className="text-[14px]">
      <p>
        Match types stand{' '}
        <ChoiceChip
          label="How match types are laid out"
          value={spread}
          choices={spreadChoices}
          onChoose={(next) => void choose(next)}
        />
        ; keywords that were asked for in match types{' '}
        <ChoiceChip
          label="Match types asked for"
          value={value.asAsked ? 'asked' : 'alike'}
          choices={[
            { value: 'asked', words: 'get those' },
            { value: 'alike', words: 'are like all others' },
          ]}
          onChoose={(chosen) =>
            void layout.edit('asAsked', chosen === 'asked').then((words) => words && toast.error(words))
          }
        />
        .
      </p>
      {lanes.map((lane) => (
        <div key={lane.id} role="group" aria-label={`Lane ${lane.name}`} className="whitespace-nowrap">
          {spread !== 'together' && (
            <>
              <TextChip
                label="Name of the lane"
                value={lane.name}
                shown={lane.name === '' ? 'without a name' : lane.name}
                read={(typed) => ({ value: typed.trim() })}
                onKeep={(name) => set(lane.id, { name: name as string })}
                width={8}
              />
              :{' '}
            </>
          )}
          {matchTypes.map((type, at) => {
            const on = (lane.types & (1 << at)) !== 0;
            return (
              <button
                key={type}
                type="button"
                aria-pressed={on}
                aria-label={matchWords[type]}
                title={why[type]}
                className={`chip mr-1 ${on ? '' : 'chip-off'}`}
                onClick={() => {
                  const types = lane.types ^ (1 << at);
                  if (types === 0) toast.error('At least one match type is needed. Switch another on first.');
                  else void set(lane.id, { types });
                }}
              >
                <ReachBars type={type} /> {matchWords[type]}
              </button>
            );
          })}{' '}
          at{' '}
          <PercentChip
            label={`Bid step of the lane ${lane.name}`}
            value={lane.step}
            onDraft={() => {}}
            onUndraft={() => {}}
            onKeep={(step) => set(lane.id, { step: step as number })}
          />{' '}
          for <Takes lane={lane} sources={sources} onKeep={(takes) => set(lane.id, { takes })} />
          {lanes.length < MOST_LANES && (
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs ml-1"
              aria-label={`Copy the lane ${lane.name}`}
              title="Copy this lane"
              onClick={() => void keep([...lanes, { ...lane, id: nextId, name: freeName(lanes, lane.name) }])}
            >
              <Copy size={13} />
            </button>
          )}
          {lanes.length > 1 && (
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Take the lane ${lane.name} away`}
              onClick={() => void keep(lanes.filter(({ id }) => id !== lane.id))}
            >
              <X size={13} />
            </button>
          )}
        </div>
      ))}
      {lanes.length > 1 && (
        <Help>
          A keyword is in each match type once: the first lane that has the type and takes the keyword gets
          it. An exact lane for proven keywords takes those from some searches on, or of one source.
        </Help>
      )}
    </div>
  );
}

function freeName(lanes: readonly Lane[], name: string): string {
  for (let number = 2; ; number++) {
    const next = `${name} ${number}`.trim();
    if (!lanes.some((lane) => lane.name.toLowerCase() === next.toLowerCase())) return next;
  }
}

/** Which keywords take part in a lane. */
function Takes({
  lane,
  sources,
  onKeep,
}: {
  lane: Lane;
  sources: Props['sources'];
  onKeep: (takes: Lane['takes']) => Promise<string | null>;
}) {
  const { takes } = lane;
  const kind = kindOf(takes);
  const start: Record<string, Lane['takes']> = {
    all: takesAll(),
    searches: { ...takesAll(), searchesFrom: 50 },
    source: { ...takesAll(), sources: sources.slice(0, 1).map(({ id }) => id) },
    stage: { ...takesAll(), stages: ['ready'] },
  };
  return (
    <>
      <ChoiceChip
        label={`Keywords of the lane ${lane.name}`}
        value={kind}
        choices={[
          { value: 'all', words: 'all keywords' },
          { value: 'searches', words: 'keywords from' },
          { value: 'source', words: 'keywords of' },
          { value: 'stage', words: 'keywords that are' },
        ]}
        onChoose={(next) => void onKeep(start[next] as Lane['takes'])}
      />
      {kind === 'searches' && (
        <>
          {' '}
          <TextChip
            label="Searches of the lane’s keywords"
            value={String(takes.searchesFrom)}
            read={readCount(0, 1_000_000_000, false)}
            onKeep={(searchesFrom) => onKeep({ ...takes, searchesFrom: searchesFrom as number })}
            width={6}
          />{' '}
          searches on
        </>
      )}
      {kind === 'source' && (
        <>
          {' '}
          <ChoiceChip
            label="Source of the lane’s keywords"
            value={String(takes.sources[0])}
            choices={sources.map(({ id, name }) => ({ value: String(id), words: name }))}
            onChoose={(id) => void onKeep({ ...takes, sources: [Number(id)] })}
          />
        </>
      )}
      {kind === 'stage' && (
        <>
          {' '}
          <ChoiceChip
            label="Stage of the lane’s keywords"
            value={takes.stages[0] as FunnelStage}
            choices={funnelStages.map((stage) => ({ value: stage, words: stage }))}
            onChoose={(stage) => void onKeep({ ...takes, stages: [stage] })}
          />
        </>
      )}
    </>
  );
}

/** Which of the ways to choose a lane's keywords it uses. */
function kindOf({ searchesFrom, sources, stages }: Lane['takes']): 'searches' | 'source' | 'stage' | 'all' {
  if (searchesFrom !== null) return 'searches';
  if (sources.length > 0) return 'source';
  return stages.length > 0 ? 'stage' : 'all';
}

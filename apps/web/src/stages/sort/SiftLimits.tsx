import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { type KeywordState, keywordStates, type Sift } from '@sprig/core/sort';
import { type FunnelStage, funnelStages } from '@sprig/core/text';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { count, money } from '../../kit/format.ts';
import { readMoney } from '../../kit/read-typed.ts';
import { stageWords } from '../../plan/rule-choices.ts';

type Props = {
  sift: Sift;
  sources: readonly { id: number; name: string }[];
  currency: string;
  onSet: (change: Record<string, string>) => void;
};

const readFigure = (typed: string) => {
  const text = typed.replaceAll(',', '').trim();
  if (text === '' || text === 'any') return { value: '' };
  return /^\d{1,9}$/.test(text) ? { value: text } : { words: 'A whole number, or nothing.' };
};

const stateWords: Record<KeywordState, string> = {
  in: 'that are in',
  cut: 'that are cut',
  folded: 'that are folded',
  blocked: 'that are blocked',
};

const readAmount = (typed: string) => (/^(any|)$/.test(typed.trim()) ? { value: '' } : readMoney(typed));

/** What narrows a sift besides words: state, stage, searches, CPC, source. */
export function SiftLimits({ sift, sources, currency, onSet }: Props) {
  const figure = (label: string, value: number | null | undefined, at: string) => (
    <TextChip
      label={label}
      value={value === null || value === undefined ? 'any' : String(value)}
      shown={value === null || value === undefined ? 'any' : count(value)}
      read={readFigure}
      onKeep={async (next) => {
        onSet({ [at]: String(next) });
        return null;
      }}
      width={7}
    />
  );
  const amount = (label: string, value: Sift['cpcFrom'], at: string) => (
    <TextChip
      label={label}
      value={value === null || value === undefined ? 'any' : decimalFromMicros(value, decimalsOf(currency))}
      shown={value === null || value === undefined ? 'any' : money(value, currency)}
      read={readAmount}
      onKeep={async (next) => {
        onSet({ [at]: String(next) });
        return null;
      }}
      width={7}
    />
  );
  return (
    <span className="inline-flex flex-wrap items-center gap-1 text-[12.5px]">
      <ChoiceChip
        label="State of the keywords"
        value={sift.state ?? 'in'}
        choices={keywordStates.map((state) => ({ value: state, words: stateWords[state] }))}
        onChoose={(state) => onSet({ state: state === 'in' ? '' : state })}
      />
      <span className="text-faint">at stage</span>
      <ChoiceChip
        label="Stage of the keywords"
        value={sift.stage ?? 'any'}
        choices={[
          { value: 'any', words: 'any' },
          ...funnelStages.map((stage) => ({ value: stage, words: stageWords[stage] })),
        ]}
        onChoose={(stage) => onSet({ stage: stage === 'any' ? '' : stage })}
      />
      <span className="text-faint">searches from</span>
      {figure('Searches from', sift.searchesFrom, 'from')}
      <span className="text-faint">to</span>
      {figure('Searches to', sift.searchesTo, 'to')}
      <span className="text-faint">CPC from</span>
      {amount('CPC from', sift.cpcFrom, 'cpcFrom')}
      <span className="text-faint">to</span>
      {amount('CPC to', sift.cpcTo, 'cpcTo')}
      {sources.length > 1 && (
        <>
          <span className="text-faint">of</span>
          <ChoiceChip
            label="Source of the keywords"
            value={String(sift.source ?? '')}
            choices={[
              { value: '', words: 'any source' },
              ...sources.map(({ id, name }) => ({ value: String(id), words: name.slice(0, 40) })),
            ]}
            onChoose={(source) => onSet({ source })}
          />
        </>
      )}
    </span>
  );
}

/** The limits that an address carries beside its sentence. */
export function limitsIn(params: URLSearchParams): Omit<Sift, 'has' | 'not'> {
  const whole = (name: string) => {
    const text = params.get(name) ?? '';
    return /^\d{1,12}$/.test(text) ? Number(text) : null;
  };
  const stage = funnelStages.find((one) => one === params.get('stage')) ?? null;
  const limits: Omit<Sift, 'has' | 'not'> = {};
  const source = whole('source');
  const [from, to] = [whole('from'), whole('to')];
  if (stage) limits.stage = stage satisfies FunnelStage;
  if (source) limits.source = source;
  if (from !== null) limits.searchesFrom = from;
  if (to !== null) limits.searchesTo = to;
  const [cpcFrom, cpcTo] = [whole('cpcFrom'), whole('cpcTo')];
  if (cpcFrom !== null) limits.cpcFrom = asMicros(cpcFrom);
  if (cpcTo !== null) limits.cpcTo = asMicros(cpcTo);
  const state = keywordStates.find((one) => one === params.get('state'));
  if (state && state !== 'in') limits.state = state;
  return limits;
}

/** The limits of a rule in words; empty where it has none. */
export function limitWords({ stage, searchesFrom, searchesTo, cpcFrom, cpcTo, source }: Sift): string {
  const from = searchesFrom ?? null;
  const to = searchesTo ?? null;
  return [
    stage ? `at stage ${stageWords[stage]}` : '',
    from !== null ? `from ${count(from)} searches` : '',
    to !== null ? `up to ${count(to)} searches` : '',
    typeof cpcFrom === 'number' ? `from a CPC of ${decimalFromMicros(cpcFrom, 2)}` : '',
    typeof cpcTo === 'number' ? `up to a CPC of ${decimalFromMicros(cpcTo, 2)}` : '',
    source ? `of source ${source}` : '',
  ]
    .filter((part) => part !== '')
    .join(', ');
}

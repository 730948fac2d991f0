import { THEME_COLOURS } from '@sprig/contracts';
import { type FunnelStage, funnelStages } from '@sprig/core/text';
import { Trash2 } from 'lucide-react';
import { NoteOn } from '../../frame/notes/NoteOn.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, short } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { stageWords } from '../../plan/rule-choices.ts';
import type { SortData } from '../../plan/use-sort-data.ts';
import { RuleEdit } from './RuleEdit.tsx';
import { share } from './sort-words.ts';
import { flagsOf, flagWords, type ThemeNode } from './theme-tree.ts';
import type { SortActions } from './use-sort-actions.ts';

type Props = {
  plan: number;
  node: ThemeNode;
  settings: SortData['settings'];
  actions: SortActions;
  onRemove: () => void;
};

const stageChoices = [
  { value: 'none', words: 'what words tell' },
  ...funnelStages.map((stage) => ({ value: stage, words: stageWords[stage] })),
] as const;

/** The theme that is open, as a sentence: its name and rule, what it is for, and what is to be seen to. */
export function OpenTheme({ plan, node, settings, actions, onRemove }: Props) {
  const { name, sum, idea, colour, stage } = node;
  const flags = flagsOf(node, settings).filter((flag) => flag !== 'idea');
  return (
    <section
      aria-label="The open theme"
      className="flex min-h-9 shrink-0 flex-wrap items-center gap-x-2 gap-y-0.5 border-hair border-b px-4 py-0.5 text-[13px]"
    >
      <span className="max-w-64 font-semibold">
        <InlineEdit
          label={`name of ${name}`}
          shown={name}
          text={name}
          tabStop
          onKeep={(typed) => actions.edit(node, 'name', typed.trim())}
        />
      </span>
      <span className="min-w-0 max-w-[440px] truncate">
        <RuleEdit node={node} actions={actions} tabStop />
      </span>
      <NoteOn plan={plan} subject={{ kind: 'theme', key: String(node.id), name }} />
      <span className="text-faint">stage</span>
      <ChoiceChip
        label="Stage of keywords whose words tell none"
        value={stage ?? 'none'}
        choices={stageChoices}
        onChoose={(value) =>
          void actions.edit(node, 'stage', value === 'none' ? null : (value as FunnelStage))
        }
      />
      <label
        className="flex items-center gap-1.5"
        title="A candidate: it keeps its keywords, but no group is made of it"
      >
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={idea}
          onChange={() => void actions.edit(node, 'idea', !idea)}
        />
        only an idea
      </label>
      <span className="flex items-center gap-1" role="radiogroup" aria-label="Colour on the map">
        {[null, ...Array.from({ length: THEME_COLOURS }, (_, at) => at)].map((one) => (
          <button
            key={one}
            type="button"
            role="radio"
            aria-checked={colour === one}
            aria-label={one === null ? 'No colour of its own' : `Colour ${one + 1}`}
            className={`size-3.5 rounded-[4px] ${colour === one ? 'ring-2 ring-primary ring-offset-1 ring-offset-base-100' : ''}`}
            style={{
              background: one === null ? 'var(--color-base-300)' : `var(--ground-${one})`,
            }}
            onClick={() => void actions.edit(node, 'colour', one)}
          />
        ))}
      </span>
      <span className="ml-auto flex items-center gap-2 text-[12.5px] text-faint">
        <span>
          {count(sum.own.keywords)} of its own, {share(sum.tightness)} tight, {short(sum.all.searches)}{' '}
          searches
        </span>
        {flags.length > 0 && (
          <span className="text-warning" title={flags.map((flag) => flagWords[flag].about).join('; ')}>
            {flags.map((flag) => flagWords[flag].name).join(', ')}
          </span>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          aria-label={`Remove ${name}`}
          title="Remove this theme with its sub-themes"
          onClick={onRemove}
        >
          <Trash2 size={14} />
        </button>
      </span>
    </section>
  );
}

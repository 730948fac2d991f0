import { lineWords } from '@sprig/contracts';
import type { AdForm, AdPattern, PatternScope, PatternSplit } from '@sprig/core/write';
import { fieldsOf, limitsOf } from '@sprig/core/write';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { filledLines } from '../../kit/filled-lines.ts';
import { counted } from '../../kit/format.ts';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { useBuiltPlaces } from '../../plan/use-built-places.ts';
import { fieldName } from './field-names.ts';
import { formOf, useMeasure } from './measure.tsx';
import { OutletsChoice } from './OutletsChoice.tsx';
import type { Patterns } from './use-writing.ts';

type Props = {
  id: number;
  body: AdPattern;
  document: Document<Patterns>;
  /** Themes by their paths, for those a pattern may be for. */
  themes: readonly { id: number; name: string }[];
  groupInView: { key: string; name: string } | null;
  plan: number;
};

const forms: { value: AdForm; words: string }[] = [
  { value: 'plain', words: 'plain ad' },
  { value: 'assembled', words: 'assembled ad' },
];
const scopes: { value: PatternScope['to']; words: string }[] = [
  { value: 'all', words: 'all ad groups' },
  { value: 'campaigns', words: 'the campaigns …' },
  { value: 'themes', words: 'the branches …' },
  { value: 'groups', words: 'chosen ad groups' },
  { value: 'without', words: 'those without an ad' },
];
const splits: { value: PatternSplit['by']; words: string }[] = [
  { value: 'none', words: 'not split' },
  { value: 'live', words: 'split: written against live' },
  { value: 'line', words: 'split: line against line' },
];

/** What the chosen pattern is and which groups it is for, as a sentence whose words are the settings. */
export function PatternSentence({ id, body, document, themes, groupInView, plan }: Props) {
  const at = `patterns.${id}`;
  const set = async (field: string, value: unknown) => {
    const words = await document.edit(`${at}.${field}`, value);
    if (words) toast.error(words);
    return words;
  };
  const { groups, split, form, labels, name } = body;
  const measure = useMeasure();
  const { campaigns } = useBuiltPlaces(plan);
  const limits = formOf(measure, form);
  const inView = groupInView ? [groupInView.key] : [];
  const some = groups.groups.length > 0 ? groups.groups : inView;
  const scope = (to: PatternScope['to']) =>
    set('groups', {
      to,
      themes: to === 'themes' ? groups.themes : [],
      groups: to === 'groups' ? some : [],
      campaigns: to === 'campaigns' ? groups.campaigns : [],
    });
  return (
    <div className="flex flex-wrap items-center gap-x-1.5 gap-y-1 px-4 pb-1 text-[13px]">
      <TextChip
        label="Name of the pattern"
        value={name}
        width={18}
        read={(typed) =>
          typed.trim() === '' ? { words: 'A pattern needs a name.' } : { value: typed.trim() }
        }
        onKeep={(value) => set('name', value)}
      />
      is a
      <ChoiceChip
        label="Form of the ad"
        value={form}
        choices={forms}
        onChoose={(value) => void set('form', value)}
      />
      for
      <ChoiceChip
        label="Which ad groups"
        value={groups.to}
        choices={scopes}
        onChoose={(to) => void scope(to)}
      />
      {groups.to === 'themes' && (
        <SomeOf
          word="branch"
          all={themes}
          chosen={groups.themes}
          onChange={(next) => void set('groups', { ...groups, themes: next })}
        />
      )}
      {groups.to === 'campaigns' && (
        <SomeOf
          word="campaign"
          all={campaigns.map(({ key, name: title }) => ({ id: key, name: title }))}
          chosen={groups.campaigns}
          onChange={(next) => void set('groups', { ...groups, campaigns: next })}
        />
      )}
      {groups.to === 'groups' && (
        <span className="text-faint">
          {counted(groups.groups.length, 'ad group')}
          {groupInView && !groups.groups.includes(groupInView.key) && (
            <button
              type="button"
              className="ml-1 text-primary hover:underline"
              onClick={() => void set('groups', { ...groups, groups: [...groups.groups, groupInView.key] })}
            >
              add {groupInView.name}
            </button>
          )}
        </span>
      )}
      {(measure.shipped.length > 1 || body.outlets.length > 0) && (
        <>
          at
          <OutletsChoice
            outlets={measure.shipped}
            chosen={body.outlets}
            onChange={(next) => void set('outlets', next)}
          />
        </>
      )}
      labelled
      <LinesChip
        label="Labels of its ads"
        shown={labels.length === 0 ? 'nothing' : labels.join(', ')}
        text={labels.join('\n')}
        placeholder={'spring\ntest 2'}
        help="One label to a line. Every ad of the pattern has them."
        read={(typed) => ({ value: filledLines(typed) })}
        onKeep={(value) => set('labels', value)}
      />
      <ChoiceChip
        label="Split test"
        value={split.by}
        choices={splits}
        onChoose={(by) => void set('split', { ...split, by, labels: labelsFor(by), paused: null })}
      />
      {split.by === 'line' && limits && (
        <>
          of
          <ChoiceChip
            label="Field that is split"
            value={split.field}
            choices={fieldsOf(limitsOf(limits)).map((field) => ({ value: field, words: fieldName(field) }))}
            onChoose={(field) => void set('split', { ...split, field })}
          />
          against
          <LinesChip
            label="Lines of the second version"
            shown={split.lines[0] ?? 'nothing yet'}
            text={split.lines.join('\n')}
            placeholder="Prices and terms"
            help="One line to fall back on below the other, as in a field."
            read={(typed) => readLines(typed)}
            onKeep={(value) => set('split', { ...split, lines: value })}
          />
        </>
      )}
      {split.by !== 'none' && (
        <span className="text-faint">
          labelled{' '}
          {([0, 1] as const).map((place) => (
            <TextChip
              key={place}
              label={`Label of version ${place + 1}`}
              value={split.labels[place]}
              read={(typed) => ({ value: typed.trim() })}
              onKeep={(value) => set('split', { ...split, labels: split.labels.with(place, String(value)) })}
            />
          ))}
          <ChoiceChip
            label="Versions that run"
            value={split.paused ?? 'both'}
            choices={[
              { value: 'both', words: 'both run' },
              { value: 'b', words: `only ${split.labels[0] || 'the first'} runs` },
              { value: 'a', words: `only ${split.labels[1] || 'the second'} runs` },
            ]}
            onChoose={(paused) => void set('split', { ...split, paused: paused === 'both' ? null : paused })}
          />
        </span>
      )}
    </div>
  );
}

const labelsFor = (by: PatternSplit['by']): [string, string] =>
  by === 'live' ? ['written', 'live'] : ['line one', 'line two'];

function readLines(typed: string): { value: string[] } | { words: string } {
  const lines = filledLines(typed);
  for (const line of lines) {
    const words = lineWords(line);
    if (words) return { words };
  }
  return { value: lines };
}

type SomeProps<Id> = {
  /** What one of them is called. */
  word: string;
  all: readonly { id: Id; name: string }[];
  chosen: readonly Id[];
  onChange: (chosen: Id[]) => void;
};

/** Some of the plan's branches or campaigns, each taken out by a press. */
function SomeOf<Id extends number | string>({ word, all, chosen, onChange }: SomeProps<Id>) {
  const [adding, setAdding] = useState(false);
  const left = all.filter(({ id }) => !chosen.includes(id));
  return (
    <span className="inline-flex flex-wrap items-center gap-1">
      {chosen.map((id) => (
        <button
          key={id}
          type="button"
          className="chip"
          title={`Take this ${word} out`}
          onClick={() => onChange(chosen.filter((one) => one !== id))}
        >
          {all.find((one) => one.id === id)?.name ?? `${word} ${id}, gone`} ×
        </button>
      ))}
      {adding || chosen.length === 0 ? (
        <select
          className="plain-field chip cursor-pointer"
          aria-label={`Add a ${word}`}
          value=""
          onChange={({ target }) => {
            setAdding(false);
            const added = left.find(({ id }) => String(id) === target.value);
            if (added) onChange([...chosen, added.id]);
          }}
          onBlur={() => setAdding(false)}
        >
          <option value="">{all.length === 0 ? `no ${word} yet` : `choose a ${word}`}</option>
          {left.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : (
        <button type="button" className="text-primary hover:underline" onClick={() => setAdding(true)}>
          + {word}
        </button>
      )}
    </span>
  );
}

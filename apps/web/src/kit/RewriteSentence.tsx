import type { Rewriting } from '@sprig/core/gather';
import type { CaseStyle } from '@sprig/core/text';
import { ChoiceChip } from './chips.tsx';

const styles: { value: CaseStyle; words: string }[] = [
  { value: 'as-is', words: 'as they are' },
  { value: 'lower', words: 'in lower case' },
  { value: 'sentence', words: 'in Sentence case' },
  { value: 'title', words: 'in Title Case' },
];

type Props = { rewriting: Rewriting; onChange: (rewriting: Rewriting) => void };

/** How many texts are changed at once, as a sentence. */
export function RewriteSentence({ rewriting, onChange }: Props) {
  const field = (at: 'find' | 'replace' | 'prefix' | 'suffix', label: string, width = 'w-44') => (
    <input
      // biome-ignore lint/a11y/noAutofocus: what it was opened for
      autoFocus={at === 'find'}
      aria-label={label}
      className={`input input-sm ${width}`}
      value={rewriting[at]}
      onChange={({ target }) => onChange({ ...rewriting, [at]: target.value })}
    />
  );
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 text-[14px]">
        Replace {field('find', 'Find')} by {field('replace', 'Replace by')}
        <label className="flex items-center gap-1.5 text-[13px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={rewriting.isPattern}
            onChange={({ target }) => onChange({ ...rewriting, isPattern: target.checked })}
          />
          a regular expression
        </label>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2 text-[14px]">
        put {field('prefix', 'Put before', 'w-32')} before and {field('suffix', 'Put behind', 'w-32')} behind,
        and write them{' '}
        <ChoiceChip
          label="Case"
          value={rewriting.style}
          choices={styles}
          onChoose={(style) => onChange({ ...rewriting, style })}
        />
      </div>
    </>
  );
}

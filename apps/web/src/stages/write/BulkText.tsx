import { type AdRow, type AdText, lineWords } from '@sprig/contracts';
import { noRewriting, type Rewriting, rewriter } from '@sprig/core/gather';
import { inCase, lengthOf } from '@sprig/core/text';
import {
  type AdField,
  type AdLimits,
  type EditorialWords,
  mendText,
  type TextRules,
} from '@sprig/core/write';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { RewriteSentence } from '../../kit/RewriteSentence.tsx';
import { fieldName } from './field-names.ts';

type Props = {
  what: string;
  rules: TextRules;
  /** What is looked for where objections are mended. */
  words: EditorialWords;
  /** What it opens with. */
  start: BulkStart;
  fields: readonly AdField[];
  limits: (ad: AdRow) => AdLimits;
  load: () => Promise<AdRow[]>;
  onHold: (texts: [string, AdText, string][]) => Promise<unknown>;
  onClose: () => void;
};

/** Something to be typed, all in Title Case, or everything mended that editors would object to. */
export type BulkStart = 'text' | 'title' | 'mend';

const SHOWN = 60;
type Edit = { key: string; field: AdField; group: string; before: string; after: string; over: number };

/** The texts of many ads changed at once in chosen fields, each shown before and after. */
export function BulkText({ what, rules, words, limits, start, fields, load, onHold, onClose }: Props) {
  const [rows, setRows] = useState<AdRow[] | null>(null);
  const [chosen, setChosen] = useState<AdField[]>(
    start === 'mend' ? [...fields] : fields.filter((field) => field.startsWith('headline')),
  );
  const [rewriting, setRewriting] = useState<Rewriting>(
    start === 'title' ? { ...noRewriting, style: 'title' } : noRewriting,
  );
  const [isMending, setMending] = useState(start === 'mend');
  const [busy, setBusy] = useState(false);
  const plan = useOpenPlan();
  // What was selected when it opened, as it stands whenever it is built anew.
  const loadFirst = useRef(load);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each build may write other texts
  useEffect(() => {
    let isWanted = true;
    void loadFirst.current().then((loaded) => isWanted && setRows(loaded));
    return () => {
      isWanted = false;
    };
  }, [plan.builtRevision]);
  const made = useMemo(
    () => edits(rows ?? [], chosen, rewriting, rules, isMending ? words : null, limits),
    [rows, chosen, rewriting, rules, isMending, words, limits],
  );
  const over = made.edits.filter((edit) => edit.over > 0).length;
  return (
    <Dialog title={`Texts of ${what}`} onClose={onClose} wide>
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Fields">
        In
        {fields.map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={chosen.includes(name)}
            className={`chip ${chosen.includes(name) ? '' : 'chip-off'}`}
            onClick={() =>
              setChosen(chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name])
            }
          >
            {fieldName(name)}
          </button>
        ))}
      </div>
      <div className="mt-2">
        <RewriteSentence rewriting={rewriting} onChange={setRewriting} />
      </div>
      <label className="mt-2 flex items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={isMending}
          onChange={({ target }) => setMending(target.checked)}
        />
        mend what editors would object to, where that is certain
      </label>
      <p className="mt-1 text-[12.5px] text-faint">Tokens such as @keyword are filled in for each group.</p>
      {made.words && (
        <p role="alert" className="mt-2 text-error">
          {made.words}
        </p>
      )}
      <div className="mt-3 max-h-[38vh] overflow-auto">
        <table className="w-full text-[13px]" aria-label="Before and after">
          <tbody>
            {made.edits.slice(0, SHOWN).map(({ key, field: name, group, before, after, over: long }) => (
              <tr key={`${key}:${name}`} className="border-base-200 border-t">
                <td className="max-w-32 truncate py-0.5 pr-2 text-faint">{group}</td>
                <td className="text-faint line-through decoration-1">{before || '–'}</td>
                <td className="px-2">→</td>
                <td>
                  {after}
                  {long > 0 && <span className="ml-1 text-[12px] text-error">{long} too long</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {made.edits.length > SHOWN && (
          <p className="text-faint">and {count(made.edits.length - SHOWN)} more</p>
        )}
        {rows === null && <p className="text-faint">Fetching the ads …</p>}
      </div>
      <div className="mt-3 flex items-center gap-3">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={busy || made.edits.length === 0 || made.words !== null}
          onClick={async () => {
            setBusy(true);
            const done = await onHold(made.edits.map(({ key, field: name, after }) => [key, name, after]));
            setBusy(false);
            if (done !== null) onClose();
          }}
        >
          Write {counted(made.edits.length, 'text')} by hand
        </button>
        {over > 0 && <span className="text-error">{counted(over, 'text')} would be too long</span>}
      </div>
    </Dialog>
  );
}

function edits(
  rows: readonly AdRow[],
  fields: readonly AdField[],
  rewriting: Rewriting,
  rules: TextRules,
  guarded: EditorialWords | null,
  limitsOfAd: (ad: AdRow) => AdLimits,
): { edits: Edit[]; words: string | null } {
  const made = rewriter(rewriting, rules.pack);
  if (made.status === 'problem') return { edits: [], words: `This pattern can’t be used: ${made.words}` };
  const words = lineWords(`${rewriting.prefix}${rewriting.replace}${rewriting.suffix}`);
  const list = rows.flatMap((row) =>
    fields.flatMap((field): Edit[] => {
      const limit = limitsOfAd(row)[field]?.limit;
      const before = row.texts[field] ?? '';
      if (limit === undefined || before === '') return [];
      const rewritten = made.rewrite(before);
      // What the brief always writes one way stays so in any case.
      const isCased = rewriting.style !== 'as-is';
      const written = isCased ? inCase(rewritten, 'as-is', rules.pack, rules.casing) : rewritten;
      const after = guarded ? mendText(written, field, guarded) : written;
      if (after === before) return [];
      const over = after.includes('@') ? 0 : Math.max(0, lengthOf(after) - limit);
      return [{ key: row.key, field, group: row.groupName, before, after, over }];
    }),
  );
  return { edits: list, words };
}

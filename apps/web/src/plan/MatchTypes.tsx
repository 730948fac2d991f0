import { changeTypes, type TypesChange, type TypesScope } from '@sprig/contracts';
import { bitOf, type MatchType, matchTypes, setOf } from '@sprig/core/match';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../data/question.ts';
import { useWrite } from '../data/use-write.ts';
import { ChoiceChip } from '../kit/chips.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { DialogFoot } from '../kit/DialogFoot.tsx';
import { count, counted } from '../kit/format.ts';
import { matchWords } from '../kit/match-words.ts';
import { AskedMarks, ReachBars } from '../kit/ReachBars.tsx';

type Kind = TypesChange['kind'];
const kinds: { value: Kind; words: string }[] = [
  { value: 'set', words: 'only in' },
  { value: 'add', words: 'also in' },
  { value: 'take', words: 'no more in' },
  { value: 'as-asked', words: 'as the rules say' },
];

const usual = setOf(['phrase', 'exact']);
const SHOWN = 12;

type Props = { plan: number; scope: TypesScope; what: string; onClose: () => void };

/** In which match types many keywords are built: set, added, taken away or given back; before and after stand there first. */
export function MatchTypesOf({ plan, scope, what, onClose }: Props) {
  const [kind, setKind] = useState<Kind>('set');
  const [types, setTypes] = useState(usual);
  const isReady = kind === 'as-asked' || types > 0;
  const change: TypesChange = kind === 'as-asked' ? { kind } : { kind, types };
  const { data: would } = useQuery({
    ...question(changeTypes, { params: { plan }, body: { scope, change, dry: true } }),
    enabled: isReady,
    placeholderData: keepPreviousData,
  });
  const { write, isBusy } = useWrite(changeTypes, {
    said: ({ changed }) => `Changed the match types of ${counted(changed, 'keyword')}.`,
  });
  const apply = async () => {
    if (await write({ params: { plan }, body: { scope, change, dry: false } })) onClose();
  };
  const after = (type: MatchType) => {
    const [was, is] = [would?.before[type] ?? 0, would?.after[type] ?? 0];
    return was === is ? count(is) : `${count(was)} → ${count(is)}`;
  };
  return (
    <Dialog title={`Match types of ${what}`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        Build {what}{' '}
        <ChoiceChip
          label="What to do with the match types"
          value={kind}
          choices={kinds}
          onChoose={(next) => {
            setKind(next);
            // What is added or taken away is chosen anew.
            setTypes(next === 'set' ? usual : 0);
          }}
        />{' '}
        {kind !== 'as-asked' &&
          matchTypes.map((type) => {
            const isOn = (types & bitOf(type)) !== 0;
            return (
              <button
                key={type}
                type="button"
                aria-pressed={isOn}
                aria-label={matchWords[type]}
                className={`chip mr-1 ${isOn ? '' : 'chip-off'}`}
                onClick={() => setTypes(types ^ bitOf(type))}
              >
                <ReachBars type={type} /> {matchWords[type]}
              </button>
            );
          })}
        .
      </p>
      {!isReady && <p className="text-[12.5px] text-faint">Choose a match type.</p>}
      {would && isReady && (
        <>
          <p role="status" className="mt-1 text-[13px]">
            {counted(would.changed, 'keyword')} of {count(would.keywords)} would change.
            {would.bare > 0 && (
              <span className="text-warning">
                {' '}
                {counted(would.bare, 'keyword')} would be left with none and stay as they are: cut or pause
                those.
              </span>
            )}
          </p>
          <p className="mt-1 flex gap-5 text-[13px]">
            {matchTypes.map((type) => (
              <span key={type} className="inline-flex items-center gap-1.5">
                <ReachBars type={type} /> <span className="text-faint">{matchWords[type]}</span> {after(type)}
              </span>
            ))}
          </p>
          {would.samples.length > 0 && (
            <table className="mt-2 w-full text-[13px]">
              <thead className="text-[12px] text-faint">
                <tr>
                  <th className="text-left font-normal">Keyword</th>
                  <th className="w-40 text-left font-normal">Before</th>
                  <th className="w-40 text-left font-normal">After</th>
                </tr>
              </thead>
              <tbody>
                {would.samples.slice(0, SHOWN).map(({ id, text, before, after: next }) => (
                  <tr key={id} className="h-6">
                    <td className="max-w-0 truncate">{text}</td>
                    <td className="opacity-60">
                      <AskedMarks asked={before} />
                    </td>
                    <td>
                      {next === 0 ? (
                        <span className="text-faint">as the rules say</span>
                      ) : (
                        <AskedMarks asked={next} />
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {would.changed > SHOWN && (
            <p className="text-[12px] text-faint">and {count(would.changed - SHOWN)} more</p>
          )}
        </>
      )}
      <DialogFoot
        words={`Change ${counted(isReady ? (would?.changed ?? 0) : 0, 'keyword')}`}
        isOff={!isReady || !would || would.changed === 0 || isBusy}
        onDo={() => void apply()}
        onLeave={onClose}
      />
      <p className="mt-2 text-[12.5px] text-faint">
        What is set here holds for a keyword wherever it stands, whatever its sources asked for and the rules
        say, until it is given back. Keywords that come in later go by the rules. One step of undo takes all
        of it back.
      </p>
    </Dialog>
  );
}

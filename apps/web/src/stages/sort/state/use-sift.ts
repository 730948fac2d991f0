import * as api from '@sprig/contracts';
import { asksNothing, emptySift, readSentence, type Sift, sentenceOf } from '@sprig/core/sort';
import { useMemo, useRef, useState } from 'react';
import { useUrlText } from '../../../kit/url-state.ts';
import { useWorked } from '../../../pool/use-pool.ts';
import { limitsIn } from '../SiftLimits.tsx';
import { type Typing, withTyping } from '../sift-edits.ts';
import { nameOfRule } from '../theme-edits.ts';
import type { Place } from './use-place.ts';
import type { Sorted } from './use-sorted.ts';

const noLimits = { stage: '', from: '', to: '', source: '', state: '', cpcFrom: '', cpcTo: '' };

/** The sentence that is being written, what meets it, and making a theme of it. */
export function useSift(
  { pool, stamp, summary, actions }: Sorted,
  { params, go, open, scope }: Pick<Place, 'params' | 'go' | 'open' | 'scope'>,
) {
  const [typing, setTyping] = useState<Typing>(null);
  const [lastTerm, setLastTerm] = useState('');
  // Kept here, so that the next place to type is there before the next key; the address follows a moment later.
  const [written, write] = useUrlText(params.get('sift') ?? '');
  const kept = useMemo(() => {
    const read = readSentence(written);
    return { ...('sift' in read ? read.sift : emptySift()), ...limitsIn(params) };
  }, [written, params]);
  const sift = withTyping(kept, typing);
  const isSifting = !asksNothing(sift);
  const typed = typing?.text.trim() || lastTerm;
  const { data: answer } = useWorked(
    async () => (summary && isSifting ? pool.worker.sift(sift, scope, typed) : null),
    `sift ${stamp} ${JSON.stringify(scope)} ${JSON.stringify(sift)} ${typed} ${summary ? 1 : 0}`,
  );
  const matches = useMemo(
    () => (isSifting && answer && answer.keywords > 0 ? new Map(answer.byTheme) : null),
    [isSifting, answer],
  );
  const set = (next: Sift) => {
    const before = [...kept.has.flat(), ...kept.not];
    setLastTerm([...next.has.flat(), ...next.not].findLast((term) => !before.includes(term)) ?? '');
    write(sentenceOf(next));
    go({ sift: sentenceOf(next) });
  };
  const clear = () => {
    setTyping(null);
    setLastTerm('');
    write('');
    go({ sift: '', ...noLimits });
  };
  const typingNow = useRef(typing);
  typingNow.current = typing;
  const isSiftingNow = useRef(isSifting);
  isSiftingNow.current = isSifting;
  const save = async () => {
    if (!isSifting || sift.state) return;
    // Asked anew: the answer that stands may still be that to the letters before the last.
    const { keywords } = await pool.worker.sift(sift, scope, typed);
    if (keywords === 0) return;
    const name = nameOfRule(sift);
    // The sentence leaves the field before the server is asked: what is typed meanwhile is the next one.
    const saved = sentenceOf(sift);
    const next = typingNow.current === typing ? null : typingNow.current;
    clear();
    if (next) setTyping({ ...next, slot: next.slot === 'not' ? 'not' : 0 });
    const made = await actions.make(
      open?.id ?? null,
      [api.newThemeOf(name, sift)],
      false,
      () => `Made the theme ${name}.`,
    );
    if (made || isSiftingNow.current) return;
    write(saved);
    go({ sift: saved });
  };
  return { kept, sift, typing, setTyping, isSifting, answer: answer ?? null, matches, set, clear, save };
}

export type Sifting = ReturnType<typeof useSift>;

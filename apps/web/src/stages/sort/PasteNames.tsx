import { type NewTheme, newThemeOf } from '@sprig/contracts';
import { readTerm, writeTerm } from '@sprig/core/sort';
import { useMemo, useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';

type Props = { where: string; onMake: (themes: NewTheme[]) => void; onClose: () => void };

/** A theme for each pasted name: one to a line, its forms with `|` between them. */
export function PasteNames({ where, onMake, onClose }: Props) {
  const [text, setText] = useState('');
  const { themes, wrong } = useMemo(() => themesOf(text), [text]);
  return (
    <Dialog title="A theme for each name" onClose={onClose}>
      <div className="flex flex-col gap-3">
        <Help>
          One name to a line; other forms after a |, as in: tea pot | teapot | pot. Each becomes a theme of{' '}
          {where} that has the name or one of its forms.
        </Help>
        <textarea
          autoFocus
          aria-label="Names, one to a line"
          className="textarea h-48 w-full"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {wrong.length > 0 && (
          <p className="text-[12.5px] text-error">
            {counted(wrong.length, 'line')} can’t be a theme and will be left out:{' '}
            {wrong
              .slice(0, 5)
              .map(({ line, typed }) => `line ${line}, “${typed.slice(0, 40)}”`)
              .join('; ')}
          </p>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm self-end"
          disabled={themes.length === 0}
          onClick={() => onMake(themes)}
        >
          Make {counted(themes.length, 'theme')}
        </button>
      </div>
    </Dialog>
  );
}

/** The themes of a pasted list, and the lines that are none. */
export function themesOf(text: string): { themes: NewTheme[]; wrong: { line: number; typed: string }[] } {
  const themes: NewTheme[] = [];
  const wrong: { line: number; typed: string }[] = [];
  text.split(/\r?\n/).forEach((typed, at) => {
    if (typed.trim() === '') return;
    const terms = typed
      .split('|')
      .map((form) => readTerm(form))
      .flatMap((read) => ('problem' in read ? [] : [writeTerm(read)]));
    const name = (typed.split('|')[0] ?? '').trim();
    if (terms.length === 0 || name === '') wrong.push({ line: at + 1, typed });
    else themes.push(newThemeOf(name, { has: [[...new Set(terms)]], not: [] }));
  });
  return { themes, wrong };
}

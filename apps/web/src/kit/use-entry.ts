import { useCallback, useRef, useState } from 'react';

export type Entry = {
  typed: string;
  type: (text: string) => void;
  /** Sends a text and empties the field at once, so that the next can be typed while this one is on its way. */
  send: (text: string) => Promise<void>;
  /** What was refused while something else was typed already: it waits beside the field. */
  refused: readonly string[];
  /** Puts one of them back into the field, in front of what is typed there. */
  putBack: (text: string) => void;
};

/**
 * A field that adds what is typed. No key is lost, however slow the answer: what is sent leaves the field at once, and
 * what is refused comes back into it, or beside it where the next is being typed.
 */
export function useEntry(onAdd: (text: string) => Promise<boolean>): Entry {
  const [typed, setTyped] = useState('');
  const [refused, setRefused] = useState<readonly string[]>([]);
  const now = useRef('');
  const adding = useRef(onAdd);
  adding.current = onAdd;
  const type = useCallback((text: string) => {
    now.current = text;
    setTyped(text);
  }, []);
  const send = useCallback(
    async (text: string) => {
      type('');
      const isTaken = await adding.current(text).catch(() => false);
      if (isTaken) return;
      if (now.current === '') type(text);
      else setRefused((all) => [...all, text]);
    },
    [type],
  );
  const putBack = useCallback(
    (text: string) => {
      setRefused((all) => all.toSpliced(all.indexOf(text), 1));
      const next = now.current;
      type(text);
      if (next !== '') setRefused((all) => [...all, next]);
    },
    [type],
  );
  return { typed, type, send, refused, putBack };
}

/** What is being typed over a value that is kept: it follows the value only as long as nothing else was typed. */
export function useTypedOver(kept: string): [typed: string, type: (text: string) => void] {
  const [state, setState] = useState({ typed: kept, kept });
  if (state.kept !== kept) setState({ typed: state.typed === state.kept ? kept : state.typed, kept });
  const type = useCallback((typed: string) => setState((old) => ({ ...old, typed })), []);
  return [state.typed, type];
}

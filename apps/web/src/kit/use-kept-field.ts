import { useRef, useState } from 'react';

export type KeptField = {
  /** What is typed; null while the field is closed. */
  typed: string | null;
  type: (text: string) => void;
  open: () => void;
  /** Leaves it without keeping anything. */
  close: () => void;
  keep: () => void;
  /** What was sent and is not answered yet: it stands in the place of the value. */
  pending: string | null;
  refusal: string | null;
};

/**
 * A field over a value that is kept by a server: closed as soon as what was typed is on its way. What is refused opens
 * it again as it was typed; where it has been opened anew by then, the refusal is told with the text that it is about.
 * `isOpen`: it begins open. `check` answers what is wrong with a text before it is sent; then the field stays open. Where the
 * value was changed by somebody else while the field was open that is told first: nobody writes over what they have not seen.
 * `follows`: the value follows what is typed, so that this can't be told here.
 */
export function useKeptField(
  value: string,
  onKeep: (typed: string) => Promise<string | null>,
  {
    onLeave,
    check,
    isOpen = false,
    follows = false,
  }: {
    onLeave?: () => void;
    check?: (typed: string) => string | null;
    isOpen?: boolean;
    follows?: boolean;
  } = {},
): KeptField {
  const [typed, setTyped] = useState<string | null>(isOpen ? value : null);
  const [pending, setPending] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const now = useRef<string | null>(typed);
  const sent = useRef(0);
  const openedWith = useRef(value);
  /** What stood there when it was opened; null where that was on its way, and comes back in a form of its own. */
  const stoodThere = useRef<string | null>(value);
  const write = (text: string | null) => {
    now.current = text;
    setTyped(text);
  };
  const close = () => {
    write(null);
    setRefusal(null);
    onLeave?.();
  };
  const keep = async () => {
    const text = now.current;
    if (text === null) return;
    // Compared with what it opened with: the value itself may follow what is typed.
    if (text === openedWith.current) return close();
    const wrong = check?.(text) ?? null;
    if (wrong !== null) return setRefusal(wrong);
    if (!follows && stoodThere.current !== null && value !== stoodThere.current && value !== text) {
      stoodThere.current = value;
      return setRefusal(changedMeanwhile(value));
    }
    const order = ++sent.current;
    write(null);
    setRefusal(null);
    setPending(text);
    const words = await onKeep(text).catch((error: unknown) => String(error));
    if (order === sent.current) setPending(null);
    if (words === null) {
      if (now.current === null) onLeave?.();
      return;
    }
    setRefusal(now.current === null ? words : `“${text}” was not kept: ${words}`);
    if (now.current === null) write(text);
  };
  return {
    typed,
    type: (text) => {
      write(text);
      setRefusal(check?.(text) ?? null);
    },
    open: () => {
      openedWith.current = pending ?? value;
      stoodThere.current = pending === null ? value : null;
      write(openedWith.current);
    },
    close,
    keep: () => void keep(),
    pending,
    refusal,
  };
}

const changedMeanwhile = (value: string): string =>
  `This was changed meanwhile, and is ${value === '' ? 'empty' : `“${value.slice(0, 80)}”`} now. Enter puts yours in its place, Esc leaves it.`;

/** What is wrong with what was typed, as it was read; null: nothing. */
export const wordsIn = (read: { value: unknown } | { words: string }): string | null =>
  'words' in read ? read.words : null;

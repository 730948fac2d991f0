import { decimalFromMicros, decimalsOf, type Micros } from '@sprig/core/money';
import { type ReactNode, useId } from 'react';
import { money, percent } from './format.ts';
import { readMoney, readPercent } from './read-typed.ts';
import { useKeptField, wordsIn } from './use-kept-field.ts';

type TextChipProps = {
  label: string;
  value: string;
  shown?: ReactNode;
  /** What is typed as a value, or the words to say that it is none. */
  read: (typed: string) => { value: unknown } | { words: string };
  /** Shows the effect of what is being typed, and takes it away again. */
  onDraft?: (value: unknown) => void;
  onUndraft?: () => void;
  onKeep: (value: unknown) => Promise<string | null>;
  width?: number;
};

/** A value inside of a sentence: it reads as text, and is typed over in its place. */
export function TextChip({
  label,
  value,
  shown,
  read,
  onDraft,
  onUndraft,
  onKeep,
  width = 10,
}: TextChipProps) {
  const id = useId();
  const { typed, type, open, close, keep, pending, refusal } = useKeptField(
    value,
    (text) => {
      const result = read(text);
      return 'words' in result ? Promise.resolve(result.words) : onKeep(result.value);
    },
    { onLeave: onUndraft, check: (text) => wordsIn(read(text)), follows: onDraft !== undefined },
  );
  if (typed === null)
    return (
      <button type="button" className="chip cursor-text" aria-label={`${label}: ${value}`} onClick={open}>
        {pending ?? shown ?? value}
      </button>
    );
  return (
    <span className="relative inline-block">
      <input
        // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
        autoFocus
        aria-label={label}
        aria-invalid={refusal !== null}
        aria-describedby={refusal ? id : undefined}
        className={`plain-field chip ${refusal ? 'chip-bad' : ''}`}
        style={{ width: `${Math.max(width, typed.length + 2)}ch` }}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          type(event.target.value);
          const result = read(event.target.value);
          if ('value' in result) onDraft?.(result.value);
        }}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep();
          else if (event.key === 'Escape') close();
        }}
      />
      {refusal && (
        <span
          id={id}
          role="alert"
          className="absolute top-full left-0 z-30 mt-1 w-64 rounded border border-error bg-base-100 px-2 py-1 font-normal text-error text-xs"
        >
          {refusal}
        </span>
      )}
    </span>
  );
}

type Kept<T> = {
  label: string;
  value: T;
  onDraft?: (value: unknown) => void;
  onUndraft?: () => void;
  onKeep: (value: unknown) => Promise<string | null>;
};

export function MoneyChip({ currency, ...rest }: Kept<Micros> & { currency: string }) {
  const text = decimalFromMicros(rest.value, decimalsOf(currency));
  return <TextChip {...rest} value={text} shown={money(rest.value, currency)} read={readMoney} width={7} />;
}

export function PercentChip(props: Kept<number>) {
  return (
    <TextChip
      {...props}
      value={String(props.value / 100)}
      shown={percent(props.value)}
      read={readPercent}
      width={6}
    />
  );
}

type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  choices: readonly { value: T; words: string }[];
  onChoose: (value: T) => void;
};

/** One of a few, as a chip that opens. */
export function ChoiceChip<T extends string>({ label, value, choices, onChoose }: ChoiceProps<T>) {
  return (
    <select
      className="plain-field chip cursor-pointer"
      aria-label={label}
      value={value}
      onChange={(event) => onChoose(event.target.value as T)}
    >
      {choices.map((choice) => (
        <option key={choice.value} value={choice.value}>
          {choice.words}
        </option>
      ))}
    </select>
  );
}

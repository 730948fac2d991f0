import { TextChip } from '../../kit/chips.tsx';

/** Labels as a chip to type over: words with commas between. */
export function Labels({
  of,
  labels,
  onKeep,
}: {
  of: string;
  labels: readonly string[];
  onKeep: (typed: string) => Promise<string | null>;
}) {
  return (
    <TextChip
      label={`Labels of ${of}`}
      value={labels.join(', ')}
      shown={
        labels.length === 0 ? <span className="font-normal text-faint">no label</span> : labels.join(', ')
      }
      read={(typed) =>
        typed.length > 1_000 ? { words: 'These labels are too long. Use fewer.' } : { value: typed.trim() }
      }
      onKeep={(value) => onKeep(String(value))}
      width={16}
    />
  );
}

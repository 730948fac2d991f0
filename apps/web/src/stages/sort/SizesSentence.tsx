import type { SortSettings } from '@sprig/contracts';
import { TextChip } from '../../kit/chips.tsx';
import { count } from '../../kit/format.ts';
import type { SortActions } from './use-sort-actions.ts';

const whole = (least: number, most: number) => (typed: string) => {
  const value = Number(typed.replaceAll(',', '').trim());
  return Number.isInteger(value) && value >= least && value <= most
    ? { value }
    : { words: `A whole number from ${count(least)} to ${count(most)}.` };
};

const floorOf = (typed: string) =>
  typed.trim() === '' || /^(none|never)$/i.test(typed.trim())
    ? { value: null }
    : whole(1, 1_000_000_000)(typed);

/** How large a group is to be, as a sentence. */
export function SizesSentence({ settings, actions }: { settings: SortSettings; actions: SortActions }) {
  const keep = (at: keyof SortSettings) => async (value: unknown) => {
    await actions.setting(settings, at, value);
    return null;
  };
  return (
    <span className="inline-flex items-center gap-1 whitespace-nowrap text-[12.5px]">
      groups of
      <TextChip
        label="Fewest keywords of a group"
        value={String(settings.least)}
        read={whole(1, settings.target)}
        onKeep={keep('least')}
        width={4}
      />
      to
      <TextChip
        label="Most keywords of a group"
        value={String(settings.target)}
        read={whole(settings.least, 10_000)}
        onKeep={keep('target')}
        width={5}
      />
      , smaller
      <TextChip
        label="Searches from which a smaller group will do"
        value={settings.floor === null ? 'never' : String(settings.floor)}
        shown={settings.floor === null ? 'never' : `from ${count(settings.floor)} searches`}
        read={floorOf}
        onKeep={keep('floor')}
        width={7}
      />
    </span>
  );
}

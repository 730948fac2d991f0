import { ChoiceChip } from '../../kit/chips.tsx';
import { type AimKind, type AimTyped, beyonds } from './bid-change.ts';

/** What bids are aimed at, how far beyond, and at most how high. */
export function AimFields({
  kind,
  aimed,
  onAim,
  onEnter,
}: {
  kind: AimKind;
  aimed: Omit<AimTyped, 'kind'>;
  onAim: (aimed: Omit<AimTyped, 'kind'>) => void;
  onEnter: () => void;
}) {
  const field = (at: 'at' | 'beyond' | 'ceiling', label: string, placeholder = '') => (
    <input
      // biome-ignore lint/a11y/noAutofocus: what was chosen
      autoFocus={at === 'at'}
      aria-label={label}
      className="plain-field chip w-16 text-right"
      placeholder={placeholder}
      value={aimed[at]}
      onChange={({ target }) => onAim({ ...aimed, [at]: target.value })}
      onKeyDown={(event) => event.key === 'Enter' && onEnter()}
    />
  );
  return (
    <>
      {field('at', kind === 'share' ? 'Share of impressions' : 'Position')}
      {kind === 'share' && ' %'} with {field('beyond', 'Headroom')} %{' '}
      <ChoiceChip
        label="What the headroom is of"
        value={aimed.by}
        choices={beyonds}
        onChoose={(by) => onAim({ ...aimed, by })}
      />
      , at most {field('ceiling', 'Greatest bid', 'as set')} each
    </>
  );
}

import { fieldLabel } from './field-in-hand.ts';
import type { StageEntry } from './leaf.ts';
import type { Somebody } from './presence.ts';

/** As many stand side by side. */
const SHOWN = 3;

const initials = (name: string): string =>
  name
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => [...word][0] ?? '')
    .filter((_, at, all) => at === 0 || at === all.length - 1)
    .join('')
    .toUpperCase();

type Props = { others: readonly Somebody[]; stages: readonly Pick<StageEntry, 'path' | 'name'>[] };

/** Who else has the plan open, and where. */
export function Others({ others, stages }: Props) {
  const said = ({ name, place, field }: Somebody) => {
    const stage = stages.find(({ path }) => path === place);
    const where = stage ? `in ${stage.name}` : 'here';
    return field === '' ? `${name} is ${where}` : `${name} is ${where}, writing: ${fieldLabel(field)}`;
  };
  if (others.length === 0) return null;
  const rest = others.slice(SHOWN);
  return (
    <ul aria-label="Who else is here" className="mr-1 flex items-center gap-1">
      {others.slice(0, SHOWN).map((one) => (
        <li
          key={one.actor}
          title={said(one)}
          className="grid h-6 min-w-6 place-items-center rounded-full bg-wash px-1 text-[11px] ring-1 ring-hair"
        >
          <span aria-hidden>{initials(one.name)}</span>
          <span className="sr-only">{said(one)}</span>
        </li>
      ))}
      {rest.length > 0 && (
        <li title={rest.map(said).join('\n')} className="text-[12px] text-faint">
          +{rest.length}
        </li>
      )}
    </ul>
  );
}

import { type AdPattern, patternOf } from '@sprig/core/write';
import { ListStart, Plus } from 'lucide-react';
import { useState } from 'react';
import { usePreferences } from '../../data/me.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { Menu } from '../../kit/Menu.tsx';
import type { PatternFit } from '../../pool/pattern-fits.ts';
import type { WriteActions } from './use-write-actions.ts';
import { freePatternName, type Patterns } from './use-writing.ts';

type Props = {
  value: Patterns;
  fits: readonly PatternFit[];
  chosen: number;
  actions: WriteActions;
  onChoose: (pattern: number) => void;
  onStart: () => void;
};

/** The ad patterns side by side, in the order in which their ads stand in a group. */
export function PatternsRibbon({ value, fits, chosen, actions, onChoose, onStart }: Props) {
  const [leaving, setLeaving] = useState<number | null>(null);
  const { preferences, setAloud: prefer } = usePreferences();
  const usual = preferences.newPattern;
  const begin = (body: AdPattern | null) =>
    prefer(
      { newPattern: body && beginningOf(body) },
      body
        ? `New patterns begin like ${body.name}, in all plans.`
        : 'New patterns begin with a headline of the keyword again.',
    );
  const { patterns, order } = value;
  const move = (id: number, by: number) => {
    const at = order.indexOf(id);
    const next = order.filter((one) => one !== id);
    next.splice(at + by, 0, id);
    void actions.order(next);
  };
  const make = async (body: AdPattern, behind: number | null) => {
    const id = await actions.make(body, behind);
    if (id !== null) onChoose(id);
  };
  return (
    <section
      aria-label="Ad patterns"
      className="flex min-w-0 items-center gap-1.5 overflow-x-auto px-4 py-1.5"
    >
      {order.map((id, at) => {
        const body = patterns[id];
        const fit = fits.find((one) => one.id === id);
        if (!body) return null;
        const isChosen = id === chosen;
        return (
          <span
            key={id}
            className={`flex h-8 shrink-0 items-center rounded-md ${isChosen ? 'bg-wash ring-1 ring-primary' : 'bg-base-200'}`}
          >
            <button
              type="button"
              aria-pressed={isChosen}
              className="flex h-8 items-center gap-1.5 pl-2.5"
              title={`${counted(fit?.groups ?? 0, 'ad group')}${fit && fit.misfits > 0 ? `, ${counted(fit.misfits, 'misfit')}` : ''}`}
              onClick={() => onChoose(id)}
            >
              <span className={body.status === 'paused' ? 'text-faint line-through decoration-1' : ''}>
                {body.name}
              </span>
              <span className="font-semibold">{count(fit?.ads ?? 0)}</span>
              {fit !== undefined && fit.misfits > 0 && (
                <span className="text-[12px] text-error">{counted(fit.misfits, 'misfit')}</span>
              )}
            </button>
            <Menu
              label={`More for ${body.name}`}
              className="btn btn-ghost btn-square btn-xs mx-0.5"
              width={280}
              items={[
                {
                  words: 'Copy it, to change one field',
                  hint: 'the same ads again, for a test',
                  run: () => void make({ ...body, name: `${body.name} 2`, labels: [] }, id),
                },
                {
                  words: body.status === 'paused' ? 'Enable its ads' : 'Pause its ads',
                  run: () => void actions.status(id, body.status === 'paused' ? 'enabled' : 'paused'),
                },
                {
                  words: 'Begin new patterns like this one',
                  hint: 'its lines, for all ad groups',
                  run: () => begin(body),
                },
                ...(usual ? [{ words: `Begin no more like ${usual.name}`, run: () => begin(null) }] : []),
                { words: 'Move to the left', disabled: at === 0, run: () => move(id, -1) },
                { words: 'Move to the right', disabled: at === order.length - 1, run: () => move(id, 1) },
                { words: 'Remove', run: () => setLeaving(id) },
              ]}
            >
              …
            </Menu>
          </span>
        );
      })}
      <Menu
        label="New pattern"
        className="btn btn-sm"
        items={[
          ...(usual
            ? [
                {
                  words: `As usual: ${usual.name}`,
                  run: () => void make({ ...usual, name: freePatternName(value, usual.name) }, null),
                },
              ]
            : []),
          {
            words: 'Plain ad',
            hint: usual ? 'fields in order, this once' : 'fields in order',
            run: () => void make(newPattern(value, 'Plain ad', 'plain'), null),
          },
          {
            words: 'Assembled ad',
            hint: usual ? 'a set, this once' : 'a set the engine picks from',
            run: () => void make(newPattern(value, 'Assembled ad', 'assembled'), null),
          },
        ]}
      >
        <Plus size={14} aria-hidden /> Pattern
      </Menu>
      <button type="button" className="btn btn-ghost btn-sm font-normal" onClick={onStart}>
        <ListStart size={15} aria-hidden /> Lines to start from
      </button>
      {leaving !== null && (
        <Dialog title={`Remove ${patterns[leaving]?.name}?`} onClose={() => setLeaving(null)}>
          <p className="mb-4">
            Its {counted(fits.find(({ id }) => id === leaving)?.ads ?? 0, 'ad')} go with it; what you wrote in
            them by hand is set aside. Ctrl+Z brings everything back.
          </p>
          <button
            type="button"
            className="btn btn-error btn-sm"
            onClick={() => {
              void actions.remove(leaving);
              setLeaving(null);
            }}
          >
            Remove the pattern
          </button>
        </Dialog>
      )}
    </section>
  );
}

const newPattern = (value: Patterns, name: string, form: AdPattern['form']): AdPattern =>
  patternOf({ headline1: ['@keyword'] }, 'title', { name: freePatternName(value, name), form });

/** A pattern without what is one plan's own: its places, outlets and hand-set state. */
const beginningOf = (body: AdPattern): AdPattern => ({
  ...body,
  status: 'enabled',
  groups: { to: 'all', themes: [], groups: [], campaigns: [] },
  outlets: [],
});

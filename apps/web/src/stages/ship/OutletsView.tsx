import { keepOutlet, type PlanState, readOutletJson, removeOutlet } from '@sprig/contracts';
import { type Outlet, outletProblems, plainOutlet } from '@sprig/core/outlets';
import { ClipboardPaste, Copy, Download, Plus, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { Help } from '../../frame/Help.tsx';
import { OutletForm } from './OutletForm.tsx';
import { OutletTry } from './OutletTry.tsx';
import { refreshShip } from './use-ship.ts';

type Props = {
  plan: PlanState;
  outlets: readonly { outlet: Outlet; own: boolean; chosen: boolean }[];
  wanted: string;
  onOutlet: (outlet: string) => void;
};

const NEW = 'new';
const NOTHING: Readonly<Record<string, string>> = {};

/** A key made of a name: what nobody has yet. */
function keyFor(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^[^a-z]+|-+$/g, '')
      .slice(0, 36) || 'outlet';
  let key = base;
  for (let n = 2; taken.has(key); n++) key = `${base}-${n}`;
  return key;
}

/** The outlets: those that come with the product to look at and copy, one's own to change; each tried at once on the plan. */
export function OutletsView({ plan, outlets, wanted, onOutlet }: Props) {
  const known = outlets.find(({ outlet }) => outlet.key === wanted);
  const shown = wanted === NEW ? null : (known ?? outlets[0] ?? null);
  const [draft, setDraft] = useState<{ of: string; outlet: Outlet } | null>(null);
  const [json, setJson] = useState<string | null>(null);
  /** What is typed into fields of numbers and is none, by its place: kept as it is until it is one. */
  const [unreadOf, setUnreadOf] = useState<{ of: string; texts: Readonly<Record<string, string>> } | null>(
    null,
  );
  const taken = useMemo(() => new Set(outlets.map(({ outlet }) => outlet.key)), [outlets]);
  const place = shown?.outlet.key ?? NEW;
  const fresh = (): Outlet => ({
    ...structuredClone(plainOutlet),
    key: keyFor('new outlet', taken),
    name: 'New outlet',
  });
  const current = draft?.of === place ? draft.outlet : (shown?.outlet ?? fresh());
  const isOwn = shown === null || shown.own;
  const isChanged = draft?.of === place;
  const unread = unreadOf?.of === place ? unreadOf.texts : NOTHING;
  const problems = useMemo(
    () => [
      ...outletProblems(current),
      ...Object.entries(unread).map(([at, text]) => ({ at, words: `“${text}” is no number above 0.` })),
    ],
    [current, unread],
  );
  const edit = (outlet: Outlet) => setDraft({ of: place, outlet });
  const drop = () => {
    setDraft(null);
    setUnreadOf(null);
  };
  const copy = (outlet: Outlet) => {
    const name = `${outlet.name} (copy)`;
    setDraft({ of: NEW, outlet: { ...structuredClone(outlet), name, key: keyFor(name, taken) } });
    onOutlet(NEW);
  };
  // A new one has the key that it will be kept by.
  const outlet = shown === null ? { ...current, key: keyFor(current.name, taken) } : current;
  const keep = async () => {
    const isNew = shown === null;
    try {
      await call(keepOutlet, {
        params: { plan: plan.id, outlet: outlet.key },
        body: { outlet: outlet as never, isNew },
      });
      await refreshShip(plan.id);
      onOutlet(outlet.key);
      // Not before it is there: until then the draft is what is shown.
      setDraft((now) => (now === draft ? null : now));
      toast(`Kept ${outlet.name}.`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  const remove = async () => {
    try {
      await call(removeOutlet, { params: { plan: plan.id, outlet: current.key } });
      await refreshShip(plan.id);
      onOutlet('');
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[190px_minmax(440px,1.1fr)_1fr]">
      <OutletNav
        outlets={outlets}
        place={place}
        unkept={shown === null ? current.name : null}
        onOutlet={onOutlet}
        onJson={() => setJson('')}
      />
      <section
        aria-label={`Outlet ${current.name}`}
        className="min-h-0 overflow-auto border-hair border-r px-5 py-3"
      >
        <div className="mb-2 flex flex-wrap items-center gap-2">
          {isOwn ? (
            <>
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={problems.length > 0 || (!isChanged && shown !== null)}
                onClick={() => void keep()}
              >
                Keep {current.name}
              </button>
              {(isChanged || Object.keys(unread).length > 0) && (
                <button type="button" className="btn btn-ghost btn-sm font-normal" onClick={drop}>
                  Drop the changes
                </button>
              )}
              {shown && !shown.chosen && (
                <button
                  type="button"
                  className="btn btn-ghost btn-sm font-normal"
                  onClick={() => void remove()}
                >
                  <Trash2 size={14} aria-hidden /> Remove
                </button>
              )}
            </>
          ) : (
            <span className="text-faint">This one stays as it is. Copy it to make it yours.</span>
          )}
          <button type="button" className="btn btn-sm ml-auto font-normal" onClick={() => copy(current)}>
            <Copy size={14} aria-hidden /> Copy
          </button>
          <a
            className="btn btn-sm font-normal"
            href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(outlet, null, 2))}`}
            download={`${outlet.key}.outlet.json`}
          >
            <Download size={14} aria-hidden /> JSON
          </a>
        </div>
        {json !== null ? (
          <FromJson
            typed={json}
            onTyped={setJson}
            onRead={(outlet) => {
              setJson(null);
              setDraft({
                of: NEW,
                outlet: taken.has(outlet.key) ? { ...outlet, key: keyFor(outlet.name, taken) } : outlet,
              });
              onOutlet(NEW);
            }}
            onClose={() => setJson(null)}
          />
        ) : (
          <OutletForm
            key={place}
            outlet={current}
            problems={problems}
            currency={plan.brief.currency}
            readOnly={!isOwn}
            unread={unread}
            onUnread={(texts) => setUnreadOf({ of: place, texts })}
            onChange={edit}
          />
        )}
      </section>
      <OutletTry plan={plan} outlet={current} isSound={problems.length === 0} />
    </div>
  );
}

type FromJsonProps = {
  typed: string;
  onTyped: (typed: string) => void;
  onRead: (outlet: Outlet) => void;
  onClose: () => void;
};

/** An outlet that somebody shared: pasted, read, every problem named with its place. */
function FromJson({ typed, onTyped, onRead, onClose }: FromJsonProps) {
  const read = useMemo(() => (typed.trim() === '' ? null : readOutletJson(typed)), [typed]);
  return (
    <div className="flex flex-col gap-2">
      <textarea
        // biome-ignore lint/a11y/noAutofocus: the field was just asked for
        autoFocus
        className="textarea h-72 w-full text-[12.5px]"
        aria-label="An outlet as JSON"
        placeholder="Paste the JSON of an outlet"
        spellCheck={false}
        value={typed}
        onChange={({ target }) => onTyped(target.value)}
      />
      {read?.status === 'problem' && (
        <ul role="alert" className="max-h-56 overflow-auto text-[12.5px] text-error">
          {read.problems.map(({ at, words }) => (
            <li key={`${at}${words}`}>
              {at !== '' && <code className="mr-1 text-base-content">{at}</code>} {words}
            </li>
          ))}
        </ul>
      )}
      <p className="flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={read?.status !== 'outlet'}
          onClick={() => read?.status === 'outlet' && onRead(read.outlet)}
        >
          {read?.status === 'outlet' ? `Look at ${read.outlet.name}` : 'Look at it'}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Back
        </button>
      </p>
      <Help>What the parts mean is written in docs/outlets.md. Nothing is kept before you say so.</Help>
    </div>
  );
}

type NavProps = Pick<Props, 'outlets' | 'onOutlet'> & {
  place: string;
  /** The name of one that is not kept yet; null: there is none. */
  unkept: string | null;
  onJson: () => void;
};

/** All outlets by name, and how to begin another. */
const OutletNav = ({ outlets, place, unkept, onOutlet, onJson }: NavProps) => (
  <nav aria-label="All outlets" className="min-h-0 overflow-auto border-hair border-r px-3 py-3">
    <ul className="flex flex-col gap-0.5">
      {outlets.map(({ outlet, own, chosen }) => (
        <li key={outlet.key}>
          <button
            type="button"
            aria-pressed={place === outlet.key}
            className={`w-full cursor-pointer rounded-md px-2 py-1 text-left hover:bg-base-200 ${place === outlet.key ? 'bg-wash' : ''}`}
            onClick={() => onOutlet(outlet.key)}
          >
            {outlet.name}
            <span className="block text-[12px] text-faint">
              {own ? 'yours' : 'comes with Green Sprig'}
              {chosen ? ', shipped to' : ''}
            </span>
          </button>
        </li>
      ))}
      {unkept !== null && (
        <li className="rounded-md bg-wash px-2 py-1">
          {unkept}
          <span className="block text-[12px] text-faint">not kept yet</span>
        </li>
      )}
    </ul>
    <div className="mt-3 flex flex-col items-start gap-1">
      <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={() => onOutlet(NEW)}>
        <Plus size={13} aria-hidden /> New outlet
      </button>
      <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={onJson}>
        <ClipboardPaste size={13} aria-hidden /> From JSON
      </button>
    </div>
  </nav>
);

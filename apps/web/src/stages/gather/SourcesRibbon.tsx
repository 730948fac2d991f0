import { removeSource, renameSource, type Source } from '@sprig/contracts';
import {
  Blend,
  ClipboardList,
  FileText,
  Gauge,
  Hand,
  Lightbulb,
  PencilLine,
  Sigma,
  TriangleAlert,
  X,
} from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useWrite } from '../../data/use-write.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted, time } from '../../kit/format.ts';

const MARKS = {
  paste: ClipboardList,
  file: FileText,
  hand: Hand,
  ideas: Lightbulb,
  recipe: Blend,
  figures: Gauge,
  estimates: Sigma,
} as const;

type Props = {
  plan: number;
  sources: Source[];
  chosen: number | null;
  onChoose: (source: number | null) => void;
  onProblems: (source: number) => void;
  children: ReactNode;
};

/** The sources side by side: how many keywords each brings, what only it brings, and its lines to mend. */
export function SourcesRibbon({ plan, sources, chosen, onChoose, onProblems, children }: Props) {
  const [leaving, setLeaving] = useState<Source | null>(null);
  const [naming, setNaming] = useState<Source | null>(null);
  return (
    <section aria-label="Sources" className="flex h-12 shrink-0 items-center gap-2 border-hair border-b px-4">
      <div className="flex min-w-0 flex-1 items-center gap-1.5 overflow-x-auto">
        {sources.map((source) => {
          const Mark = MARKS[source.kind];
          const isChosen = chosen === source.id;
          return (
            <div
              key={source.id}
              className={`relative flex h-8 shrink-0 items-center overflow-hidden rounded-md ${isChosen ? 'bg-wash ring-1 ring-primary' : 'bg-base-200'}`}
            >
              {/* The share of its keywords that no other source brings. */}
              <span
                aria-hidden
                className="absolute bottom-0 left-0 h-[3px] bg-primary/60"
                style={{ width: `${(100 * source.onlyHere) / Math.max(1, source.keywords)}%` }}
              />
              <button
                type="button"
                aria-pressed={isChosen}
                className="flex h-full items-center gap-1.5 px-2"
                title={`${source.name}, ${source.actor}, ${time(source.madeAt)}. ${counted(source.onlyHere, 'keyword')} only here.`}
                onClick={() => onChoose(isChosen ? null : source.id)}
              >
                <Mark size={14} aria-hidden className="text-faint" />
                <span className="max-w-44 truncate">{source.name}</span>
                <span className="font-semibold">{count(source.keywords)}</span>
                <span className="text-[12px] text-faint">{count(source.onlyHere)} only here</span>
              </button>
              {source.problems > 0 && (
                <button
                  type="button"
                  className="flex h-full items-center gap-1 px-1.5 text-warning"
                  onClick={() => onProblems(source.id)}
                >
                  <TriangleAlert size={13} aria-hidden />
                  <span className="text-[12.5px]">{counted(source.problems, 'line')} to look at</span>
                </button>
              )}
              {isChosen && (
                <button
                  type="button"
                  className="px-1.5 text-faint hover:text-base-content"
                  title="Rename this source"
                  aria-label={`Rename the source ${source.name}`}
                  onClick={() => setNaming(source)}
                >
                  <PencilLine size={13} />
                </button>
              )}
              {isChosen && (
                <button
                  type="button"
                  className="px-1.5 text-faint hover:text-error"
                  title="Remove this source"
                  aria-label={`Remove the source ${source.name}`}
                  onClick={() => setLeaving(source)}
                >
                  <X size={14} />
                </button>
              )}
            </div>
          );
        })}
      </div>
      <div className="flex shrink-0 gap-2">{children}</div>
      {naming && <RenameSource plan={plan} source={naming} onClose={() => setNaming(null)} />}
      {leaving && (
        <RemoveSource
          plan={plan}
          source={leaving}
          onClose={() => setLeaving(null)}
          onDone={() => onChoose(null)}
        />
      )}
    </section>
  );
}

function RenameSource({ plan, source, onClose }: { plan: number; source: Source; onClose: () => void }) {
  const [name, setName] = useState(source.name);
  const { write, refusal, forget } = useWrite(renameSource, { refusals: 'here' });
  const rename = async () => {
    const isSame = name.trim() === source.name;
    const body = { name, before: source.name };
    if (isSame || (await write({ params: { plan, source: source.id }, body }))) onClose();
  };
  return (
    <Dialog title={`Rename ${source.name}`} onClose={onClose}>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void rename();
        }}
      >
        <input
          autoFocus
          aria-label="Name of the source"
          className="input input-sm flex-1"
          value={name}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setName(event.target.value);
            forget();
          }}
        />
        <button type="submit" className="btn btn-primary btn-sm">
          Rename
        </button>
      </form>
      {refusal && (
        <p role="alert" className="mt-2 text-error">
          {refusal}
        </p>
      )}
    </Dialog>
  );
}

/** What goes with a source, before it goes. */
function RemoveSource({
  plan,
  source,
  onClose,
  onDone,
}: {
  plan: number;
  source: Source;
  onClose: () => void;
  onDone: () => void;
}) {
  const { write } = useWrite(removeSource, {
    said: () => `Removed ${source.name}. Ctrl+Z brings it back.`,
  });
  const remove = async () => {
    if (!(await write({ params: { plan, source: source.id } }))) return;
    onDone();
    onClose();
  };
  return (
    <Dialog title={`Remove ${source.name}`} onClose={onClose}>
      <p>
        {counted(source.onlyHere, 'keyword')} that no other source brings will leave the pool, with{' '}
        {source.onlyHere === 1 ? 'its' : 'their'} ad groups.{' '}
        {counted(source.keywords - source.onlyHere, 'keyword')} stay, with the other sources' figures.
      </p>
      <button type="button" className="btn btn-error btn-sm mt-4" onClick={() => void remove()}>
        Remove the source and {counted(source.onlyHere, 'keyword')}
      </button>
    </Dialog>
  );
}

import {
  acceptFinding,
  applyFix,
  type FixableRule,
  fixableRules,
  listFinding,
  type OutletFinding,
  previewFix,
} from '@sprig/contracts';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { CircleAlert, CircleCheck, Lightbulb, OctagonAlert } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { NoteOn } from '../../frame/notes/NoteOn.tsx';
import { count, counted, date } from '../../kit/format.ts';
import { findingPlace, findingWords } from './finding-words.ts';
import { refreshShip } from './use-ship.ts';

type Props = {
  plan: number;
  findings: readonly OutletFinding[];
  /** Names of the outlets that the plan ships to, by their keys. */
  names: ReadonlyMap<string, string>;
  isEmpty: boolean;
  /** Whether `findings` are those of a look through the plan and all its outlets, of this state or an earlier one. */
  isWhole: boolean;
  /** Whether the plan and its outlets have been looked through as they stand now. */
  looked: 'whole' | 'under way' | 'failed';
};

/** One rule's findings, of the plan or of several outlets. */
type Rule = { id: string; findings: OutletFinding[] };

/** What stands between the plan and its outlets: one list that empties, blockers first, what is accepted at its end. */
export function FindingsList({ plan, findings: current, names, isEmpty, isWhole, looked }: Props) {
  const [showsAccepted, setShowsAccepted] = useState(false);
  // While the plan is looked through again the lines of the last look stay, so that none moves under a hand.
  const [last, setLast] = useState<readonly OutletFinding[] | null>(null);
  if (isWhole && last !== current) setLast(current);
  const isOfBefore = looked === 'under way' && last !== null;
  const findings = isOfBefore ? last : current;
  const [modes, setModes] = useState<Readonly<Record<string, Mode>>>({});
  const line = (rule: Rule) => (
    <RuleLine
      key={rule.id}
      plan={plan}
      rule={rule}
      names={names}
      mode={modes[rule.id] ?? ''}
      setMode={(mode) => setModes((all) => ({ ...all, [rule.id]: mode }))}
    />
  );
  const open = findings.filter(({ accepted }) => accepted === null);
  const accepted = findings.filter((finding) => finding.accepted !== null);
  const rules = byRule(open);
  const blockers = rules.filter((rule) => rule.findings[0]?.severity === 'blocker').length;
  return (
    <section aria-label="Findings" className="min-h-0 overflow-auto border-hair border-r px-5 py-3">
      <h1 className="mb-1 font-semibold text-[15px]">
        {looked === 'whole' || (blockers > 0 && !isOfBefore)
          ? headline(blockers, rules.length)
          : NOT_WHOLE[looked]}
      </h1>
      {looked !== 'whole' && rules.length > 0 && (
        <p className="text-faint">
          {isOfBefore
            ? 'Listed is what the look before this one found.'
            : 'There may be more than is listed yet.'}
        </p>
      )}
      {looked === 'whole' && open.length === 0 && !isEmpty && (
        <p className="flex items-center gap-2 text-primary">
          <CircleCheck size={16} aria-hidden /> Nothing stands in the way.
        </p>
      )}
      <ul className="flex flex-col">{rules.map(line)}</ul>
      {accepted.length > 0 && (
        <div className="mt-3">
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal text-faint"
            aria-expanded={showsAccepted}
            onClick={() => setShowsAccepted(!showsAccepted)}
          >
            {counted(accepted.length, 'finding')} accepted
          </button>
          {showsAccepted && <ul className="flex flex-col">{byRule(accepted).map(line)}</ul>}
        </div>
      )}
    </section>
  );
}

const NOT_WHOLE = {
  'under way': 'Looking through the plan …',
  failed: 'The plan was not looked through',
} as const;

function headline(blockers: number, findings: number): string {
  if (blockers > 0) return `${counted(blockers, 'blocker')} before anything ships`;
  return findings > 0 ? `Ready to ship, with ${counted(findings, 'thing')} to know` : 'Ready to ship';
}

/** One line a rule, whatever number of outlets it speaks of. */
export function byRule(findings: readonly OutletFinding[]): Rule[] {
  const rules = new Map<string, Rule>();
  for (const finding of findings) {
    const id = `${finding.rule}:${finding.field}:${finding.accepted}`;
    const rule = rules.get(id) ?? { id, findings: [] };
    rules.set(id, rule);
    rule.findings.push(finding);
  }
  return [...rules.values()];
}

const MARKS = { blocker: OctagonAlert, warning: CircleAlert, tip: Lightbulb } as const;
const TONES = { blocker: 'text-error', warning: 'text-warning', tip: 'text-info' } as const;
const isFixable = (rule: string): rule is FixableRule => (fixableRules as readonly string[]).includes(rule);

/** What is asked of a rule's findings. */
type Mode = '' | 'fix' | 'accept';
type LineProps = {
  plan: number;
  rule: Rule;
  names: Props['names'];
  mode: Mode;
  setMode: (mode: Mode) => void;
};

/** One rule: what it is, how to mend it, and the first few it speaks of, each a way to its place. */
function RuleLine({ plan, rule, names, mode, setMode }: LineProps) {
  const { findings } = rule;
  const first = findings[0] as OutletFinding;
  const { severity, accepted } = first;
  const most = findings.reduce((a, b) => (b.count > a.count ? b : a));
  const { title, remedy } = findingWords(most);
  const searches = Math.max(...findings.map((one) => one.searches ?? -1));
  const outlets = findings.flatMap(({ outlet, count: own }) =>
    outlet === null || names.size < 2 ? [] : [{ name: names.get(outlet) ?? outlet, own }],
  );
  const Mark = MARKS[severity];
  return (
    <li className="grid grid-cols-[20px_1fr] gap-2 border-base-200 border-b py-2" data-rule={first.rule}>
      <Mark size={16} className={`mt-0.5 ${TONES[severity]}`} aria-label={severity} />
      <div className="min-w-0">
        <p>
          <span className="sr-only">{severity}: </span>
          {title}{' '}
          <Link
            to={findingPlace(first, first.samples[0]?.key)}
            className="text-primary underline underline-offset-2"
          >
            {remedy}
          </Link>
        </p>
        <Samples plan={plan} finding={most} />
        <p className="mt-0.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-faint">
          {outlets.map(({ name, own }) => (
            <span key={name}>
              {name} {count(own)}
            </span>
          ))}
          {searches > 0 && <span>{counted(searches, 'search')} a month at stake</span>}
          {isFixable(first.rule) && mode !== 'fix' && (
            <button type="button" className="btn btn-xs font-normal" onClick={() => setMode('fix')}>
              Mend …
            </button>
          )}
          <NoteOn plan={plan} subject={{ kind: 'finding', key: first.rule, name: title }} />
          {severity !== 'blocker' && accepted === null && mode !== 'accept' && (
            <button
              type="button"
              className="btn btn-ghost btn-xs font-normal"
              onClick={() => setMode('accept')}
            >
              Accept …
            </button>
          )}
          {accepted !== null && <Accepted plan={plan} findings={findings} />}
        </p>
        {mode === 'fix' && <Fix plan={plan} finding={first} onDone={() => setMode('')} />}
        {mode === 'accept' && <Accept plan={plan} findings={findings} onDone={() => setMode('')} />}
      </div>
    </li>
  );
}

/** The first few that a finding speaks of, each a way to its place; all of them where they are asked for. */
function Samples({ plan, finding }: { plan: number; finding: OutletFinding }) {
  const [isOpen, setOpen] = useState(false);
  const { samples, count: number } = finding;
  if (samples.length === 0) return null;
  const told = samples.reduce((sum, { count: own = 1 }) => sum + own, 0);
  if (isOpen) return <WholeList plan={plan} finding={finding} onClose={() => setOpen(false)} />;
  return (
    <p className="mt-0.5 flex flex-wrap gap-x-3 text-[12.5px] text-faint">
      {samples.map(({ key, text, count: own = 1 }) => (
        <span key={key} className="flex min-w-0 items-center gap-1">
          <Sample finding={finding} sampleKey={key} text={text} />
          {own > 1 && <span>×{count(own)}</span>}
        </span>
      ))}
      {number > told && (
        <button
          type="button"
          className="py-1 text-primary underline underline-offset-2"
          onClick={() => setOpen(true)}
        >
          and {count(number - told)} more
        </button>
      )}
    </p>
  );
}

const Sample = ({
  finding,
  sampleKey,
  text,
}: {
  finding: OutletFinding;
  sampleKey: string;
  text: string;
}) => (
  <Link
    to={findingPlace(finding, sampleKey, text)}
    className="max-w-60 truncate py-1 hover:text-base-content hover:underline"
  >
    {text}
  </Link>
);

/** Everything that a finding speaks of, a page at a time. */
function WholeList({
  plan,
  finding,
  onClose,
}: {
  plan: number;
  finding: OutletFinding;
  onClose: () => void;
}) {
  const { rule, field, outlet } = finding;
  const about = { rule, field: field ?? '', outlet: outlet ?? '' };
  const { data, error, fetchNextPage, hasNextPage, isFetching } = useInfiniteQuery({
    queryKey: [...question(listFinding, { params: { plan }, query: about }).queryKey, finding.facts],
    queryFn: ({ pageParam }) => call(listFinding, { params: { plan }, query: { ...about, from: pageParam } }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) => {
      const seen = pages.reduce((sum, { rows }) => sum + rows.length, 0);
      return seen < total ? seen : undefined;
    },
  });
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const told = rows.reduce((sum, one) => sum + one.count, 0);
  return (
    <div className="mt-0.5 text-[12.5px] text-faint">
      {error && <p role="alert">{wordsOf(error)}</p>}
      <ul
        aria-label="All that it speaks of"
        className="max-h-60 overflow-auto rounded-md border border-hair px-2 py-1"
      >
        {rows.map(({ key, text, count: own }, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same key may be there for several reasons
          <li key={`${key} ${at}`} className="flex items-baseline gap-3">
            <Sample finding={finding} sampleKey={key} text={text} />
            {own > 1 && <span className="ml-auto">{count(own)}</span>}
          </li>
        ))}
        {isFetching && <li>…</li>}
      </ul>
      <p className="flex items-center gap-3">
        {hasNextPage && (
          <button type="button" className="btn btn-xs font-normal" onClick={() => void fetchNextPage()}>
            Show more
          </button>
        )}
        {data && !hasNextPage && told < finding.count && (
          <span>{count(finding.count - told)} more are not listed: mend some of these, and look again.</span>
        )}
        <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={onClose}>
          Show fewer
        </button>
      </p>
    </div>
  );
}

async function tryTo(plan: number, work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work();
    await refreshShip(plan);
    return true;
  } catch (error) {
    toast.error(wordsOf(error));
    return false;
  }
}

/** `by Ada on 3 March 2027`, as far as it is known. */
function acceptedWords(finding: OutletFinding | undefined): string {
  const { acceptedBy = null, acceptedAt = null } = finding ?? {};
  return `${acceptedBy === null ? '' : ` by ${acceptedBy}`}${acceptedAt === null ? '' : ` on ${date(acceptedAt)}`}`;
}

function Accepted({ plan, findings }: { plan: number; findings: readonly OutletFinding[] }): ReactNode {
  return (
    <>
      <span>
        Accepted{acceptedWords(findings[0])}: <q>{findings[0]?.accepted}</q>
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-xs font-normal"
        onClick={() => void tryTo(plan, () => acceptAll(plan, findings, null))}
      >
        Take that back
      </button>
    </>
  );
}

async function acceptAll(plan: number, findings: readonly OutletFinding[], reason: string | null) {
  for (const { rule, field, outlet, facts } of findings)
    await call(acceptFinding, { params: { plan }, body: { rule, field, outlet, facts, reason } });
}

/** A warning stays as it is, with a reason; when what it speaks of changes it comes back. */
function Accept({
  plan,
  findings,
  onDone,
}: {
  plan: number;
  findings: readonly OutletFinding[];
  onDone: () => void;
}) {
  const [reason, setReason] = useState('');
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void tryTo(plan, () => acceptAll(plan, findings, reason)).then((done) => done && onDone());
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: the field was just asked for
        autoFocus
        className="input input-sm min-w-0 flex-1"
        aria-label="Why it is accepted"
        placeholder="Why? It comes back when its facts change"
        value={reason}
        onChange={({ target }) => setReason(target.value)}
        onKeyDown={({ key }) => key === 'Escape' && onDone()}
      />
      <button type="submit" className="btn btn-sm" disabled={reason.trim() === ''}>
        Accept
      </button>
    </form>
  );
}

/** A sure fix, shown before and after; one change that can be undone. */
function Fix({ plan, finding, onDone }: { plan: number; finding: OutletFinding; onDone: () => void }) {
  const body = { rule: finding.rule as FixableRule, outlet: finding.outlet };
  const { data: look, error } = useQuery({
    ...question(previewFix, { params: { plan }, body }),
    // What it would change is worked out anew each time.
    gcTime: 0,
    retry: false,
  });
  if (error)
    return (
      <p role="alert" className="mt-1 text-[12.5px] text-error">
        {wordsOf(error)}
      </p>
    );
  if (!look) return <p className="mt-1 text-[12.5px] text-faint">Working out what would change …</p>;
  return (
    <div className="mt-1 rounded-md border border-hair p-2 text-[12.5px]">
      {look.total === 0 ? (
        <p>Nothing is left to mend here: it is set for some campaigns only. Look at them in Build.</p>
      ) : (
        <table className="w-full" aria-label="Before and after">
          <tbody>
            {look.changes.slice(0, 8).map(({ of, before, after }) => (
              <tr key={of}>
                <td className="max-w-56 truncate pr-3 text-faint">{of}</td>
                <td className="max-w-40 truncate pr-3 line-through">{before === '' ? 'none' : before}</td>
                <td className="max-w-40 truncate font-semibold">{after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {look.total > 8 && <p className="text-faint">and {count(look.total - 8)} more</p>}
      <p className="mt-1.5 flex gap-2">
        {look.total > 0 && (
          <button
            type="button"
            className="btn btn-primary btn-xs"
            onClick={() =>
              void tryTo(plan, () => call(applyFix, { params: { plan }, body })).then(
                (done) => done && onDone(),
              )
            }
          >
            {look.words}
          </button>
        )}
        <button type="button" className="btn btn-ghost btn-xs" onClick={onDone}>
          Leave it
        </button>
      </p>
    </div>
  );
}

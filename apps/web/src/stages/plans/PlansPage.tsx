import {
  duplicatePlan,
  editBrief,
  listOutsets,
  listPlans,
  makePlan,
  type OutsetView,
  outsetParts,
  type PlanSummary,
  savePlanFile,
  urlOf,
} from '@sprig/contracts';
import { currencies } from '@sprig/core/money';
import { useQuery } from '@tanstack/react-query';
import { Archive, ArchiveRestore, Copy, Download, FolderOpen, ListStart, Plus, Shapes } from 'lucide-react';
import { type FormEvent, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { openPlanFile } from '../../data/plan-file.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { refusalOf } from '../../data/run-change.ts';
import { useWrite } from '../../data/use-write.ts';
import { useTheme } from '../../frame/use-theme.ts';
import { YouMenu } from '../../frame/YouMenu.tsx';
import { useMay, Where } from '../../kit/allowed.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, date } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { KeepOutset } from '../../plan/outsets/KeepOutset.tsx';
import { OutsetList } from '../../plan/outsets/OutsetList.tsx';
import { partWords } from '../../plan/outsets/outset-words.ts';
import { TakeOutset } from '../../plan/outsets/TakeOutset.tsx';
import { WorthOfPlans } from './WorthOfPlans.tsx';
import { YourWork } from './YourWork.tsx';

/** All plans of the workspace. */
export function PlansPage() {
  useTheme();
  const { data, error } = useQuery({ ...question(listPlans), staleTime: 0 });
  const may = useMay();
  const { data: outsets, error: noOutsets } = useQuery({
    ...question(listOutsets),
    staleTime: 0,
    enabled: may('read'),
  });
  const [making, setMaking] = useState(false);
  const [outset, setOutset] = useState<{ what: 'keep' | 'take'; plan: PlanSummary } | null>(null);
  const plans = data?.plans ?? [];
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[62px] shrink-0 items-center justify-between border-hair border-b px-6">
        <div className="flex items-center gap-2.5">
          <img src="/sprig.svg" alt="" width="28" height="28" />
          <span className="font-semibold text-[15px]">Green Sprig</span>
        </div>
        <YouMenu />
      </header>
      <main className="mx-auto flex min-h-0 w-full max-w-4xl flex-1 flex-col px-6 py-6">
        <div className="mb-4 flex flex-wrap items-end justify-between gap-2">
          <div>
            <h1 className="font-semibold text-xl">Plans</h1>
            <p className="text-faint">One plan for each client's build.</p>
          </div>
          <span className="flex flex-wrap gap-2">
            <Link to="/variants" className="btn btn-sm">
              <Shapes size={15} aria-hidden /> Match variants of any list
            </Link>
            <Where access="build">
              <OpenFile
                onOpened={() => void fetchAgain(queryClient, { queryKey: questionsOf(listPlans, null) })}
              />
              <button type="button" className="btn btn-primary btn-sm" onClick={() => setMaking(true)}>
                <Plus size={15} aria-hidden /> Make a plan
              </button>
            </Where>
          </span>
        </div>
        {(error ?? noOutsets) && (
          <p className="text-error" role="alert">
            {wordsOf(error ?? noOutsets)}
          </p>
        )}
        {data && plans.length === 0 && (
          <div className="grid flex-1 place-items-center">
            <Empty title="No plans yet">
              {may('build')
                ? "A plan holds one client's keywords, ad groups and ads. Make the first one."
                : 'Plans are shown here once there are any, and you are let see them.'}
            </Empty>
          </div>
        )}
        <YourWork />
        {plans.length > 0 && <WorthOfPlans />}
        {plans.length > 0 && (
          <div className="min-h-0 overflow-auto">
            <ul className="divide-y divide-base-300 border-hair border-y">
              {plans.map((plan) => (
                <PlanLine key={plan.id} plan={plan} onOutset={(what) => setOutset({ what, plan })} />
              ))}
            </ul>
            <Where access="read">
              <OutsetList />
            </Where>
          </div>
        )}
      </main>
      {/* Which outset is the default decides how the dialog opens. */}
      {making && (outsets || noOutsets) && (
        <MakePlan plans={plans} outsets={outsets?.outsets ?? []} onClose={() => setMaking(false)} />
      )}
      {outset?.what === 'keep' && (
        <KeepOutset plan={outset.plan.id} name={outset.plan.name} onClose={() => setOutset(null)} />
      )}
      {outset?.what === 'take' && (
        <TakeOutset
          plan={outset.plan.id}
          name={outset.plan.name}
          currency={outset.plan.currency}
          onClose={() => setOutset(null)}
        />
      )}
    </div>
  );
}

/** A plan that was saved as a file becomes a new plan here. */
function OpenFile({ onOpened }: { onOpened: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [opening, setOpening] = useState<string | null>(null);
  const open = async (file: File) => {
    setOpening(file.name);
    try {
      await openPlanFile(file);
      onOpened();
      toast(`${file.name} is open as a new plan.`);
    } catch (error) {
      toast.error(wordsOf(error), { duration: 12_000 });
    }
    setOpening(null);
  };
  return (
    <>
      <button
        type="button"
        className="btn btn-sm"
        disabled={opening !== null}
        title="Opens a plan that was saved as a plan file (.plan.zip) as a new plan"
        onClick={() => input.current?.click()}
      >
        <FolderOpen size={15} aria-hidden /> {opening === null ? 'Open a plan file' : `Opening ${opening} …`}
      </button>
      <input
        ref={input}
        type="file"
        accept=".zip"
        hidden
        aria-label="Plan file to open"
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          // The same file may be chosen again.
          target.value = '';
          if (file) void open(file);
        }}
      />
    </>
  );
}

function PlanLine({ plan, onOutset }: { plan: PlanSummary; onOutset: (what: 'keep' | 'take') => void }) {
  const { write: duplicate } = useWrite(duplicatePlan);
  const edit = (at: 'name' | 'archived', before: unknown, after: unknown): Promise<string | null> => {
    return refusalOf(plan.id, () =>
      call(editBrief, { params: { plan: plan.id }, body: { edits: [{ at, before, after }] } }),
    );
  };
  const ArchiveMark = plan.archived ? ArchiveRestore : Archive;
  return (
    <li
      className={`grid grid-cols-[1fr_120px_110px_240px] items-center gap-4 px-2 py-2.5 ${plan.archived ? 'opacity-80' : ''}`}
    >
      <div className="min-w-0">
        <Link
          to={`/plans/${plan.id}/gather`}
          className="block truncate font-semibold text-[15px] hover:text-primary"
        >
          {plan.name}
        </Link>
        <span className="text-[12.5px] text-faint">
          {plan.site || 'no site yet'} · {plan.currency}
          {plan.archived ? ' · archived' : ''}
        </span>
      </div>
      <span className="text-right">{count(plan.keywords)} keywords</span>
      <span className="text-right text-faint">{date(plan.changedAt)}</span>
      <div className="flex justify-end gap-1">
        <Where access="build">
          <div className="w-20">
            <InlineEdit
              tabStop
              label={`Name of ${plan.name}`}
              shown={<span className="text-faint">Rename</span>}
              text={plan.name}
              onKeep={(typed) => edit('name', plan.name, typed)}
              wide
              right
            />
          </div>
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            title="Duplicate"
            aria-label={`Duplicate ${plan.name}`}
            onClick={() => void duplicate({ params: { plan: plan.id } })}
          >
            <Copy size={14} />
          </button>
          <Menu
            label={`Outsets of ${plan.name}`}
            className="btn btn-ghost btn-square btn-xs"
            items={[
              { words: 'Keep its rules as an outset …', run: () => onOutset('keep') },
              { words: 'Take an outset into it …', run: () => onOutset('take') },
            ]}
          >
            <ListStart size={14} aria-hidden />
          </Menu>
        </Where>
        <a
          className="btn btn-ghost btn-square btn-xs"
          title="Save as a plan file: all of it in one zip, to be opened here or elsewhere"
          aria-label={`Save ${plan.name} as a plan file`}
          href={urlOf(savePlanFile, { params: { plan: plan.id } })}
          download
        >
          <Download size={14} />
        </a>
        <Where access="build">
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            title={plan.archived ? 'Take out of the archive' : 'Archive'}
            aria-label={`${plan.archived ? 'Take out of the archive' : 'Archive'}: ${plan.name}`}
            onClick={async () => {
              const words = await edit('archived', plan.archived, !plan.archived);
              if (words) toast.error(words);
            }}
          >
            <ArchiveMark size={14} />
          </button>
        </Where>
      </div>
    </li>
  );
}

/** What is worked with first, and where. */
const beginnings = [
  { value: 'list', words: 'a list of keywords', path: 'gather' },
  { value: 'site', words: 'what its site speaks of', path: 'gather?ideas=site' },
  { value: 'sheets', words: 'sheets of an account that is there', path: 'ship?view=back' },
] as const;

type Making = { plans: readonly PlanSummary[]; outsets: readonly OutsetView[]; onClose: () => void };

function MakePlan({ plans, outsets, onClose }: Making) {
  const usual = outsets.find(({ isDefault }) => isDefault);
  const [from, setFrom] = useState<string>('list');
  /** `outset N` and `like N`: an outset, or a plan, whose rules it has. */
  const [rules, setRules] = useState<string>(usual ? `outset ${usual.id}` : '');
  const [currency, setCurrency] = useState(usual?.currency ?? 'GBP');
  const like = plans.find(({ id }) => `like ${id}` === rules);
  const outset = outsets.find(({ id }) => `outset ${id}` === rules);
  const model = outset ?? like;
  const navigate = useNavigate();
  const [words, setWords] = useState<{ at: string; text: string } | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const value = (name: string) => String(form.get(name) ?? '');
    try {
      const { id } = await call(makePlan, {
        body: {
          name: value('name'),
          currency,
          language: 'en',
          site: value('site'),
          like: like?.id ?? null,
          outset: outset?.id ?? null,
        },
      });
      const { path } = beginnings.find((one) => one.value === from) ?? beginnings[0];
      void navigate(`/plans/${id}/${path}`);
    } catch (error) {
      setWords({ at: (error as { failure?: { at?: string } }).failure?.at ?? '', text: wordsOf(error) });
    }
  };
  const told = (at: string) =>
    words?.at === at && (
      <span role="alert" className="text-[12.5px] text-error">
        {words.text}
      </span>
    );
  return (
    <Dialog title="Make a plan" onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <label className="flex flex-col gap-1">
          <span className="text-faint">Name</span>
          <input
            name="name"
            autoFocus
            className="input input-sm w-full"
            placeholder="For example the client's name"
            required
          />
          {told('name')}
        </label>
        <label className="flex flex-col gap-1">
          <span className="text-faint">Site, where the ads lead</span>
          <input name="site" className="input input-sm w-full" placeholder="shop.example" />
          {told('site')}
        </label>
        <div className="flex gap-4">
          <label className="flex flex-col gap-1">
            <span className="text-faint">Currency</span>
            <select
              name="currency"
              className="select select-sm w-32"
              value={currency}
              onChange={({ target }) => setCurrency(target.value)}
            >
              {Object.keys(currencies).map((code) => (
                <option key={code}>{code}</option>
              ))}
            </select>
          </label>
          <label className="flex flex-col gap-1">
            <span className="text-faint">Language</span>
            <select name="language" className="select select-sm w-32">
              <option value="en">English</option>
            </select>
          </label>
        </div>
        <label className="flex flex-col gap-1">
          <span className="text-faint">Begin with</span>
          <select
            name="from"
            className="select select-sm w-full"
            value={from}
            onChange={({ target }) => setFrom(target.value)}
          >
            {beginnings.map(({ value: one, words: said }) => (
              <option key={one} value={one}>
                {said}
              </option>
            ))}
          </select>
        </label>
        {plans.length + outsets.length > 0 && (
          <label className="flex flex-col gap-1">
            <span className="text-faint">By the rules of</span>
            <select
              name="rules"
              className="select select-sm w-full"
              value={rules}
              onChange={({ target }) => {
                setRules(target.value);
                const named = (kind: string) => (one: { id: number }) => `${kind} ${one.id}` === target.value;
                const chosen = outsets.find(named('outset')) ?? plans.find(named('like'));
                if (chosen) setCurrency(chosen.currency);
              }}
            >
              <option value="">a new plan, as it comes</option>
              {outsets.length > 0 && (
                <optgroup label="An outset">
                  {outsets.map(({ id, name }) => (
                    <option key={id} value={`outset ${id}`}>
                      {name}
                    </option>
                  ))}
                </optgroup>
              )}
              {plans.length > 0 && (
                <optgroup label="Another plan">
                  {plans.map(({ id, name }) => (
                    <option key={id} value={`like ${id}`}>
                      {name}
                    </option>
                  ))}
                </optgroup>
              )}
            </select>
            {like && (
              <span className="text-[12.5px] text-faint">
                Its settings, themes, build rules, ad lines, negatives and outlets. Not its keywords, extras,
                what is set by hand, or the client’s own name, offers, brands and rivals.
              </span>
            )}
            {outset && (
              <span className="text-[12.5px] text-faint">
                {outset.parts.length === outsetParts.length
                  ? `All parts, kept of “${outset.of}”.`
                  : `Kept of “${outset.of}”: ${outset.parts.map((part) => partWords[part].words).join(', ')}.`}
              </span>
            )}
            {model && model.currency !== currency && (
              <span role="status" className="text-[12.5px] text-warning">
                Its amounts are in {model.currency}: bids, budgets and conditions on CPC begin as in any new
                plan in {currency}.
              </span>
            )}
          </label>
        )}
        {words && !['name', 'site'].includes(words.at) && (
          <p role="alert" className="text-error">
            {words.text}
          </p>
        )}
        <button type="submit" className="btn btn-primary btn-sm mt-1 self-end">
          Make the plan
        </button>
      </form>
    </Dialog>
  );
}

import { type AdField, type AdPattern, type FormLimits, limitsOf, partOf } from '@sprig/core/write';
import { CornerUpLeft } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { useAddress } from '../../kit/address.ts';
import { Menu } from '../../kit/Menu.tsx';
import { PickButtons } from '../../kit/PickButtons.tsx';
import { fieldName } from './field-names.ts';
import { PageText } from './PageText.tsx';
import { RivalNotes } from './RivalNotes.tsx';
import type { Patterns } from './use-writing.ts';

const views = [
  ['', 'This ad'],
  ['page', 'Page'],
  ['rivals', 'Rivals'],
] as const;

type Props = {
  plan: number;
  pattern: { id: number; body: AdPattern; form: FormLimits; document: Document<Patterns> };
  group: { key: string; name: string; keyword: string; theme: number } | null;
  /** The theme of the group in view and those above it, by their names. */
  themes: readonly { id: number; name: string }[];
  rivals: readonly string[];
  /** Where the ad in view leads; empty: nowhere. */
  address: string;
  /** What there is to say of the ad in view. */
  children: ReactNode;
};

/** What stands beside the lines while they are written: notes on the ad, a page of the site, ads of rivals. */
export function Beside({ plan, pattern, group, themes, rivals, address, children }: Props) {
  const [params, set] = useAddress();
  const shown = views.find(([id]) => id === params.get('beside'))?.[0] ?? '';
  const takeOver = (text: string, line = text) => <TakeOver {...pattern} text={text} line={line} />;
  return (
    <div className="flex w-[300px] shrink-0 flex-col border-hair border-l">
      <PickButtons
        label="Beside the lines"
        picks={views}
        current={shown}
        onPick={(beside) => set({ beside })}
      />
      {shown === '' && children}
      {shown === 'page' && (
        <Page plan={plan} leads={address} search={group?.keyword ?? ''} onLine={(text) => takeOver(text)} />
      )}
      {shown === 'rivals' && (
        <RivalNotes plan={plan} group={group} themes={themes} rivals={rivals} onLine={takeOver} />
      )}
    </div>
  );
}

/** A page of the site: where the ad leads, or another one. */
function Page({
  plan,
  leads,
  search,
  onLine,
}: {
  plan: number;
  leads: string;
  search: string;
  onLine: (text: string) => ReactNode;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [other, setOther] = useState<string | null>(null);
  const address = other ?? leads;
  return (
    <>
      <form
        className="flex shrink-0 items-center gap-1 border-hair border-b px-3 py-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          const asked = (typed ?? '').trim();
          setOther(asked === '' || asked === leads ? null : withScheme(asked));
          setTyped(null);
        }}
      >
        <input
          aria-label="Address of the page"
          className="input input-xs min-w-0 flex-1"
          placeholder="nowhere yet: the plan has no site"
          value={typed ?? address}
          onChange={({ target }) => setTyped(target.value)}
        />
        {other !== null && (
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            onClick={() => {
              setOther(null);
              setTyped(null);
            }}
          >
            The ad’s
          </button>
        )}
      </form>
      <PageText plan={plan} address={address} search={search} onLine={onLine} />
    </>
  );
}

const withScheme = (typed: string): string => (/^https?:\/\//i.test(typed) ? typed : `https://${typed}`);

/** Puts a line behind those that a field of the pattern has. */
function TakeOver({
  id,
  body,
  form,
  document,
  text,
  line,
}: Props['pattern'] & { text: string; line: string }) {
  const limits = limitsOf(form);
  const length = [...text].length;
  const fields = (Object.keys(limits) as AdField[]).filter((field) => partOf(field) !== 'paths');
  const take = async (field: AdField) => {
    const { lines } = body.fields[field];
    if (lines.includes(line)) {
      toast(`${fieldName(field)} has this line already.`);
      return;
    }
    const words = await document.edit(`patterns.${id}.fields.${field}.lines`, [...lines, line]);
    if (words) toast.error(words);
    else toast(`Added to ${fieldName(field)}, behind its other lines.`);
  };
  return (
    <Menu
      label={`Take over “${text.slice(0, 40)}”`}
      className="btn btn-ghost btn-square btn-xs ml-1 align-middle"
      items={fields.map((field) => ({
        words: fieldName(field),
        hint: length > (limits[field]?.limit ?? 0) ? `${length} of ${limits[field]?.limit}` : '',
        run: () => void take(field),
      }))}
    >
      <CornerUpLeft size={13} aria-hidden />
    </Menu>
  );
}

import type { Preferences } from '@sprig/contracts';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { type AdForm, adForms } from '@sprig/core/write';
import { type ComponentProps, useState } from 'react';
import { wordsOf } from '../data/call.ts';
import { usePreferences } from '../data/me.ts';
import { CheckSet } from '../kit/CheckSet.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { matchWords } from '../kit/match-words.ts';
import { readMoney } from '../kit/read-typed.ts';

const FORMS: Record<AdForm, string> = { plain: 'plain', assembled: 'assembled' };
const USUAL: { types: MatchType[]; forms: AdForm[] } = { types: ['phrase', 'exact'], forms: ['plain'] };

/** What new plans, recipes and ad patterns of this user begin with. */
export function Beginnings({ onClose }: { onClose: () => void }) {
  const { preferences, isKnown } = usePreferences();
  return (
    <Dialog title="What new plans begin with" onClose={onClose}>
      {isKnown && <Fields kept={preferences} onClose={onClose} />}
    </Dialog>
  );
}

function Fields({ kept, onClose }: { kept: Preferences; onClose: () => void }) {
  const { set } = usePreferences();
  const { newPlans, newRecipe, newPattern } = kept;
  const [types, setTypes] = useState(newPlans.matchTypes ?? USUAL.types);
  const [forms, setForms] = useState(newPlans.adForms ?? USUAL.forms);
  const [currency, setCurrency] = useState(newPlans.defaultBid?.currency ?? 'GBP');
  const [bid, setBid] = useState(
    newPlans.defaultBid
      ? decimalFromMicros(asMicros(newPlans.defaultBid.amount), decimalsOf(newPlans.defaultBid.currency))
      : '',
  );
  const [refusal, setRefusal] = useState<string | null>(null);
  const read = bid.trim() === '' ? null : readMoney(bid);
  const problem =
    (read && 'words' in read && read.words) ||
    (read && 'value' in read && read.value === 0 && 'A bid has to be more than nothing.') ||
    (types.length === 0 && 'Choose one match type at least.') ||
    (forms.length === 0 && 'Choose one kind of ad at least.') ||
    '';
  const keep = async (change: Partial<Preferences>, isLast: boolean) => {
    setRefusal(null);
    try {
      await set(change);
      if (isLast) onClose();
    } catch (error) {
      setRefusal(wordsOf(error));
    }
  };
  const same = (one: readonly string[], other: readonly string[]) =>
    [...one].sort().join() === [...other].sort().join();
  const all: Preferences['newPlans'] = {
    matchTypes: same(types, USUAL.types) ? null : types,
    adForms: same(forms, USUAL.forms) ? null : forms,
    defaultBid:
      read && 'value' in read ? { amount: read.value, currency: currency.trim().toUpperCase() } : null,
  };
  return (
    <form
      className="flex flex-col gap-3 text-[14px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (problem === '') void keep({ newPlans: all }, true);
      }}
    >
      <Choices
        label="Match types"
        names={matchTypes.map((type) => [type, matchWords[type]] as const)}
        chosen={types}
        onChange={setTypes}
      />
      <Choices
        label="Ads"
        names={adForms.map((form) => [form, FORMS[form]] as const)}
        chosen={forms}
        onChange={setForms}
      />
      <p>
        Default bid{' '}
        <input
          aria-label="Default bid"
          className="plain-field chip w-20 text-right"
          placeholder="as usual"
          value={bid}
          onChange={({ target }) => setBid(target.value)}
        />{' '}
        <input
          aria-label="Currency of the default bid"
          className="plain-field chip w-16"
          maxLength={3}
          value={currency}
          onChange={({ target }) => setCurrency(target.value)}
        />{' '}
        <span className="text-[12.5px] text-faint">in plans of this currency</span>
      </p>
      <Kept
        what="New recipes"
        name={newRecipe?.name ?? null}
        where="a recipe in Mix"
        onForget={() => void keep({ newRecipe: null }, false)}
      />
      <Kept
        what="New ad patterns"
        name={newPattern?.name ?? null}
        where="a pattern in Write"
        onForget={() => void keep({ newPattern: null }, false)}
      />
      <p className="text-[12.5px] text-faint">
        Plans that are there stay as they are. What an outset says goes before this.
      </p>
      {(problem || refusal) && (
        <p role="alert" className="text-[12.5px] text-error">
          {problem || refusal}
        </p>
      )}
      <p className="flex gap-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={problem !== ''}>
          Keep
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Leave it
        </button>
      </p>
    </form>
  );
}

function Choices<Name extends string>({
  label,
  ...set
}: { label: string } & ComponentProps<typeof CheckSet<Name>>) {
  return (
    <fieldset className="flex flex-wrap items-center gap-x-3">
      <legend className="float-left mr-3 min-w-24">{label}</legend>
      <CheckSet {...set} />
    </fieldset>
  );
}

/** What is kept as a beginning, and where it is chosen. */
const Kept = ({
  what,
  name,
  where,
  onForget,
}: {
  what: string;
  name: string | null;
  where: string;
  onForget: () => void;
}) => (
  <p>
    {what}{' '}
    {name === null ? (
      <span className="text-faint">begin as usual; choose another beginning by the menu of {where}</span>
    ) : (
      <>
        begin like <b>{name}</b>{' '}
        <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={onForget}>
          no more
        </button>
      </>
    )}
  </p>
);

import type { WrittenAd } from '@sprig/core/ads';
import { planAds } from '@sprig/core/plan';
import {
  type AdPattern,
  type adFields,
  descriptions,
  headlines,
  isFirstPattern,
  readSite,
  type StartingCode,
  type StartingLines as StartingSet,
  startingLines,
  textOf,
} from '@sprig/core/write';
import { useMemo } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import type { WriteGroup, WriteInput } from '../../pool/pattern-fits.ts';
import { adRulesOf } from '../../pool/pattern-fits.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { unfilledWords } from './AdCard.tsx';
import { useLanding } from './use-landing.ts';
import type { WriteActions } from './use-write-actions.ts';
import { type AdMaking, freePatternName, type Patterns } from './use-writing.ts';

const words: Record<StartingCode, { name: string; why: string }> = {
  keyword: { name: 'Keyword first', why: 'The keyword, what to do, and who you are.' },
  offer: { name: 'Offer first', why: 'Your offer right behind the keyword.' },
  place: { name: 'Where you are', why: 'Names the place, where a keyword or its campaign has one.' },
  proof: { name: 'With a proof', why: 'Room for what speaks for you: only you can write that.' },
  site: { name: 'In the site’s words', why: 'Says what your own page says.' },
  set: { name: 'Assembled ad', why: 'A set of lines from which the engine puts ads together.' },
};

type Props = {
  input: WriteInput;
  group: WriteGroup | null;
  made: AdMaking;
  value: Patterns;
  siteName: string;
  actions: WriteActions;
  onTaken: (pattern: number) => void;
  onClose: () => void;
};

/** Whole sets of lines made of the brief, the themes and the site; each tried in all ad groups before it is taken. */
export function StartingLines({ input, group, made, value, siteName, actions, onTaken, onClose }: Props) {
  const pool = usePool();
  const ofSite = useSiteWords(input);
  const { facts, language, outlet } = input;
  const sets = useMemo(
    () =>
      startingLines({
        language,
        client: facts.client.trim() || siteName,
        goal: facts.goal,
        hasOffer: made.common.offer !== '',
        hasPlaces: facts.places.length > 0,
        ofSite,
        forms: outlet.ad,
      }),
    [language, facts, siteName, made, ofSite, outlet],
  );
  const { data: tried } = useWorked(
    () =>
      pool.worker.tryPatterns(
        input,
        sets.map(({ body }) => body),
      ),
    `starting ${input.builtRevision} ${JSON.stringify(sets)}`,
  );
  const take = async ({ code, body }: StartingSet) => {
    onClose();
    const named = { ...body, name: words[code].name };
    // What a new plan has to begin with gives way; what somebody wrote stays.
    const untouched = value.order.find((id) => {
      const pattern = value.patterns[id];
      return pattern && isFirstPattern(pattern);
    });
    const there = untouched === undefined ? undefined : value.patterns[untouched];
    const id = there
      ? await actions.rewrite(untouched as number, there, named)
      : await actions.make({ ...named, name: freePatternName(value, named.name) }, null);
    if (id !== null) onTaken(id);
  };
  return (
    <Dialog title="Lines to start from" onClose={onClose} wide>
      <Help>
        Made of the brief, your themes and your site; nothing is claimed that they do not say. What only you
        can say is a <b>gap</b>: its ads can’t ship until it is written.
      </Help>
      <ul className="divide-y divide-base-200">
        {sets.map((set, at) => (
          <OneSet
            key={set.code}
            set={set}
            ad={group ? sampleOf(set.body, group, input, made) : undefined}
            fit={tried?.[at]}
            onTake={() => void take(set)}
          />
        ))}
      </ul>
    </Dialog>
  );
}

type SetProps = {
  set: StartingSet;
  ad: WrittenAd | undefined;
  fit: { groups: number; misfits: number } | undefined;
  onTake: () => void;
};

function OneSet({ set: { code, gaps }, ad, fit, onTake }: SetProps) {
  const { name, why } = words[code];
  const said = (fields: readonly (typeof adFields)[number][]) =>
    fields.flatMap((field) => {
      const fit = ad?.fields[field];
      if (!fit || fit.status === 'empty') return [];
      const isGap = fit.status === 'unfilled';
      return [{ field, text: textOf(fit) || unfilledWords(field, fit), isGap }];
    });
  return (
    <li className="flex items-start gap-4 py-3">
      <div className="min-w-0 flex-1">
        <h3 className="font-semibold">
          {name} <span className="font-normal text-faint">{why}</span>
        </h3>
        <p className="mt-1 text-[13px]">
          {said(headlines).map(({ field, text, isGap }, at) => (
            <span key={field}>
              {at > 0 && <span className="text-faint"> / </span>}
              <Said text={text} isGap={isGap} />
            </span>
          ))}
        </p>
        <p className="text-[13px] text-faint">
          {said(descriptions).map(({ field, text, isGap }) => (
            <span key={field} className="mr-2">
              <Said text={text} isGap={isGap} />
            </span>
          ))}
        </p>
      </div>
      <div className="flex w-44 shrink-0 flex-col items-end gap-1 text-right">
        <button type="button" data-step="write" className="btn btn-sm" onClick={onTake}>
          Start from it
        </button>
        <span className={`text-[12.5px] ${gaps > 0 ? 'text-warning' : 'text-faint'}`}>
          {fitWords(gaps, fit)}
        </span>
      </div>
    </li>
  );
}

const Said = ({ text, isGap }: { text: string; isGap: boolean }) =>
  isGap ? (
    <span className="inline-block rounded border border-warning border-dashed px-1 text-warning">{text}</span>
  ) : (
    text
  );

function fitWords(gaps: number, fit: SetProps['fit']): string {
  if (gaps > 0) return `${counted(gaps, 'gap')} to fill`;
  if (!fit) return 'Trying it …';
  if (fit.misfits === 0) return `Fits all ${counted(fit.groups, 'ad group')}`;
  return `Fits ${counted(fit.groups - fit.misfits, 'ad group')} of ${fit.groups.toLocaleString('en-GB')}`;
}

/** The ad of one group by a pattern that is not there yet. */
function sampleOf(
  body: AdPattern,
  group: WriteGroup,
  input: WriteInput,
  { rules, held, themes }: AdMaking,
): WrittenAd | undefined {
  const alone = adRulesOf({ ...input, patterns: [{ id: 0, body }] }, { held, themes }, rules);
  return planAds(alone, input.outlet).of(group).ads[0];
}

/** What the site's first page says, as far as it can be asked. */
function useSiteWords({ plan, site }: WriteInput): string[] {
  const address = readSite(site);
  const href = address.status === 'address' ? address.href : '';
  const { data } = useLanding(plan, href);
  return useMemo(() => (data ? [data.title, ...data.parts.map(({ text }) => text)] : []), [data]);
}

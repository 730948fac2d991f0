import type { SettingSet } from '@sprig/contracts';
import { decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { type ReactNode, useEffect } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { useOpenPlan } from '../../data/plan.ts';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { count, money } from '../../kit/format.ts';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { readMoneyOrNone } from '../../kit/read-typed.ts';
import { deliveryChoices, presenceChoices, rotationChoices, strategyChoices } from './choices.ts';
import { loadRegions } from './known-places.ts';
import * as facts from './read-facts.ts';

/** What a campaign is set to: the brief has it for all, named sets for some. */
type Settings = Omit<SettingSet, 'id' | 'name' | 'shared'>;

/** A list in few words. */
export const few = (list: readonly string[], none: string): string => {
  if (list.length === 0) return none;
  if (list.length <= 3) return list.join(', ');
  return `${list.slice(0, 2).join(', ')} and ${count(list.length - 2)} more`;
};

/** A heading with its sentences. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-hair border-b py-3 last:border-b-0">
      <h2 className="mb-1 font-semibold text-[15px]">{title}</h2>
      {children}
    </section>
  );
}

/** A sentence on the left, where its facts are used on the right. */
export function Line({ children, use }: { children: ReactNode; use: string }) {
  return (
    <div className="grid grid-cols-[1fr_290px] items-baseline gap-6 py-0.5">
      <p className="text-[14px] leading-9">{children}</p>
      <p className="text-[12px] text-faint leading-4">{use}</p>
    </div>
  );
}

const asText = (typed: string) => ({ value: typed.trim() });

/** A fact that is a short text, as a chip. */
export function Fact<T>({
  document,
  at,
  label,
  value,
  shown,
  read = asText,
  width = 18,
}: {
  document: Document<T>;
  at: string;
  label: string;
  value: string;
  shown: string;
  read?: (typed: string) => { value: unknown } | { words: string };
  width?: number;
}) {
  return (
    <TextChip
      label={label}
      value={value}
      shown={value === '' ? <span className="font-normal text-faint">{shown}</span> : shown}
      read={read}
      width={width}
      onKeep={(after) => document.edit(at, after)}
    />
  );
}

export async function choose<T>(document: Document<T>, at: string, value: unknown) {
  const words = await document.edit(at, value);
  if (words) toast.error(words);
}

const networks = ['search', 'partners', 'display'] as const;

/** Where, when and to whom campaigns show. */
export function ReachPart({ facts: kept, used }: { facts: Document<Settings>; used: string }) {
  useEffect(() => void loadRegions(), []);
  const set = kept.value as Settings;
  const places = (at: 'locations' | 'locationsOut', label: string, none: string) => (
    <LinesChip
      label={label}
      shown={few(
        set[at].map(({ name }) => name),
        none,
      )}
      text={facts.writeLocations(set[at])}
      placeholder={'Northshire, region\nMilltown, town\nNS1 4AB, postal'}
      help="Paste many at once: a place to a line, with country, region, town or postal behind it."
      read={facts.readLocations}
      onKeep={(value) => kept.edit(at, value)}
    />
  );
  return (
    <Part title="Who is reached">
      <Line use={used}>
        Ads show on{' '}
        {networks.map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={set.networks[name]}
            className={`chip mr-1.5 ${set.networks[name] ? '' : 'chip-off'}`}
            onClick={() => void choose(kept, `networks.${name}`, !set.networks[name])}
          >
            {name === 'partners' ? 'search partners' : name}
          </button>
        ))}
        to{' '}
        <ChoiceChip
          label="Presence"
          value={set.presence}
          choices={presenceChoices}
          onChoose={(value) => void choose(kept, 'presence', value)}
        />{' '}
        {places('locations', 'Locations', 'anywhere')}, but not{' '}
        {places('locationsOut', 'Excluded locations', 'nowhere left out')}.
      </Line>
      <Line use="Sites of search partners and of the display network on which nothing is to show.">
        On partner networks nothing shows on{' '}
        <LinesChip
          label="Excluded sites"
          shown={few(set.sitesOut, 'no site left out')}
          text={facts.writeLines(set.sitesOut)}
          placeholder={'games.example\nsongs.example'}
          help="A site to a line."
          read={facts.readSites}
          onKeep={(value) => kept.edit('sitesOut', value)}
        />
        .
      </Line>
      <Line use={used}>
        They are for speakers of{' '}
        <LinesChip
          label="Languages of the audience"
          shown={few(set.languages, 'any language')}
          text={facts.writeLines(set.languages)}
          placeholder={'English\nWelsh'}
          help="A language to a line."
          read={facts.readLines}
          onKeep={(value) => kept.edit('languages', value)}
        />{' '}
        and run{' '}
        <LinesChip
          label="Schedule"
          shown={few(facts.writeSchedule(set.schedule).split('\n').filter(Boolean), 'at all hours')}
          text={facts.writeSchedule(set.schedule)}
          placeholder={'Mon-Fri 9:00-17:30\nSat 10:00-16:00'}
          help="Days and hours, a line for each: Mon-Fri 9:00-17:30."
          read={facts.readSchedule}
          onKeep={(value) => kept.edit('schedule', value)}
        />
        , from{' '}
        <Fact
          document={kept}
          at="starts"
          label="Start"
          value={set.starts ?? ''}
          shown={set.starts ?? 'at once'}
          read={facts.readDay}
          width={12}
        />{' '}
        until{' '}
        <Fact
          document={kept}
          at="ends"
          label="End"
          value={set.ends ?? ''}
          shown={set.ends ?? 'further notice'}
          read={facts.readDay}
          width={12}
        />
        .
      </Line>
    </Part>
  );
}

const devices = ['desktop', 'phone', 'tablet'] as const;

/** How campaigns spend: the budget comes from who shows it. */
export function SpendPart({ facts: kept, children }: { facts: Document<Settings>; children: ReactNode }) {
  const set = kept.value as Settings;
  return (
    <Part title="What is spent">
      <Line use="The same budget as in Build; all of this stands in the campaigns sheet.">
        Each campaign may spend {children} a day,{' '}
        <ChoiceChip
          label="Delivery"
          value={set.delivery}
          choices={deliveryChoices}
          onChoose={(value) => void choose(kept, 'delivery', value)}
        />
        , with{' '}
        <ChoiceChip
          label="Bid strategy"
          value={set.strategy}
          choices={strategyChoices}
          onChoose={(value) => void choose(kept, 'strategy', value)}
        />{' '}
        and{' '}
        <ChoiceChip
          label="Ad rotation"
          value={set.rotation}
          choices={rotationChoices}
          onChoose={(value) => void choose(kept, 'rotation', value)}
        />
        .
      </Line>
      <Line use="Device bid adjustments in the campaigns sheet; 0% leaves the bid as it is.">
        Bids are adjusted by{' '}
        {devices.map((device, at) => (
          <span key={device} className="whitespace-nowrap">
            <Fact
              document={kept}
              at={`devices.${device}`}
              label={`Adjustment on ${device}`}
              value={facts.writeAdjustment(set.devices[device])}
              shown={facts.writeAdjustment(set.devices[device])}
              read={facts.readAdjustment}
              width={6}
            />{' '}
            on {device}s{at < devices.length - 1 ? ', ' : '.'}
          </span>
        ))}
      </Line>
    </Part>
  );
}

/** What campaigns are to reach: results are judged by it. */
export function AimPart({ facts: kept }: { facts: Document<Settings> }) {
  const { currency } = useOpenPlan().brief;
  const { targetCost, targetReturn, conversions } = kept.value as Settings;
  return (
    <Part title="What is aimed at">
      <Line use="The target columns of campaigns, where the outlet has them. Verdicts and bids in Learn go by it.">
        A conversion may cost{' '}
        <Fact
          document={kept}
          at="targetCost"
          label="Target cost per conversion"
          value={targetCost === null ? '' : decimalFromMicros(targetCost, decimalsOf(currency))}
          shown={targetCost === null ? 'whatever it costs' : money(targetCost, currency)}
          read={readMoneyOrNone}
          width={10}
        />{' '}
        and the cost is to come back by{' '}
        <Fact
          document={kept}
          at="targetReturn"
          label="Target return"
          value={facts.writeReturn(targetReturn)}
          shown={targetReturn === null ? 'no set return' : facts.writeReturn(targetReturn)}
          read={facts.readReturn}
          width={8}
        />
        ; counted are{' '}
        <LinesChip
          label="Counted conversions"
          shown={few(conversions, 'all conversions')}
          text={facts.writeLines(conversions)}
          placeholder={'Order\nCall longer than a minute'}
          help="A conversion to a line, by the name it has in the account."
          read={facts.readLines}
          onKeep={(value) => kept.edit('conversions', value)}
        />
        .
      </Line>
    </Part>
  );
}

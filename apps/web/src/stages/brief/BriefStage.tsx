import type { Brief, Facts } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/ship';
import { languagePack } from '@sprig/core/text';
import { type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../api/document.ts';
import { useOpenPlan } from '../../api/plan.ts';
import { ChoiceChip, MoneyChip, TextChip } from '../../kit/chips.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { Sheet } from '../../kit/Sheet.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { useFacts } from '../../plan/use-facts.ts';
import { useLayout } from '../../plan/use-layout.ts';
import {
  currencyChoices,
  deliveryChoices,
  goalChoices,
  presenceChoices,
  strategyChoices,
} from './choices.ts';
import * as facts from './read-facts.ts';
import { usePlanBrief } from './use-plan-brief.ts';

const few = (list: readonly string[], none: string): string =>
  list.length === 0
    ? none
    : list.length <= 3
      ? list.join(', ')
      : `${list.slice(0, 2).join(', ')} and ${count(list.length - 2)} more`;

/** The plan's facts as sentences, each with where it is used. */
export function BriefStage() {
  const plan = useOpenPlan();
  const brief = usePlanBrief(plan.id);
  const kept = useFacts(plan.id);
  const layout = useLayout(plan.id);
  if (!brief.value || !kept.value || !layout.value)
    return <div className="grid flex-1 place-items-center text-faint">Opening the brief …</div>;
  const { currency } = plan.brief;
  const set = kept.value;
  return (
    <>
      <div className="min-h-0 flex-1 overflow-auto">
        <div className="mx-auto max-w-[1180px] px-6 pt-4 pb-16">
          <ClientPart brief={brief} facts={kept} />
          <WordsPart facts={kept} language={plan.brief.language} />
          <ReachPart facts={kept} />
          <SpendPart facts={kept}>
            <MoneyChip
              label="Daily budget"
              value={layout.value.dailyBudget}
              currency={currency}
              onDraft={(value) => layout.draft('dailyBudget', value)}
              onUndraft={layout.undraft}
              onKeep={(value) => layout.edit('dailyBudget', value)}
            />
          </SpendPart>
        </div>
      </div>
      <Yield
        terms={[
          {
            id: 'facts',
            figure: count(plan.counts.facts),
            words: plan.counts.facts === 1 ? 'fact set' : 'facts set',
          },
          {
            id: 'places',
            figure: count(set.places.length),
            words: set.places.length === 1 ? 'place' : 'places',
          },
          {
            id: 'rivals',
            figure: count(set.rivals.length),
            words: set.rivals.length === 1 ? 'rival kept out' : 'rivals kept out',
          },
          {
            id: 'locations',
            figure: count(set.locations.length),
            words: set.locations.length === 1 ? 'location to reach' : 'locations to reach',
          },
          {
            id: 'budget',
            figure: money(layout.value.dailyBudget, currency),
            words: 'a day for each campaign',
          },
          { id: 'keywords', figure: count(plan.counts.keywords), words: 'keywords in the pool' },
        ]}
      />
    </>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-hair border-b py-3 last:border-b-0">
      <h2 className="mb-1 font-semibold text-[15px]">{title}</h2>
      {children}
    </section>
  );
}

/** A sentence on the left, where its facts are used on the right. */
function Line({ children, use }: { children: ReactNode; use: string }) {
  return (
    <div className="grid grid-cols-[1fr_290px] items-baseline gap-6 py-0.5">
      <p className="text-[14px] leading-9">{children}</p>
      <p className="text-[12px] text-faint leading-4">{use}</p>
    </div>
  );
}

const asText = (typed: string) => ({ value: typed.trim() });

/** A fact that is a short text, as a chip. */
function Fact<T>({
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

async function choose<T>(document: Document<T>, at: string, value: unknown) {
  const words = await document.edit(at, value);
  if (words) toast.error(words);
}

function ClientPart({ brief, facts: kept }: { brief: Document<Brief>; facts: Document<Facts> }) {
  const set = kept.value as Facts;
  const plan = brief.value as Brief;
  return (
    <Part title="The client">
      <Line use="The name heads the list of plans; the site is @site in ads, and ads that lead elsewhere are warned about.">
        This plan is called{' '}
        <Fact document={brief} at="name" label="Name of the plan" value={plan.name} shown={plan.name} /> and
        builds for{' '}
        <Fact
          document={kept}
          at="client"
          label="Client"
          value={set.client}
          shown={set.client || 'a client'}
        />
        , whose site is{' '}
        <Fact
          document={brief}
          at="site"
          label="Site"
          value={plan.site}
          shown={plan.site || 'not known yet'}
          width={26}
        />
        .
      </Line>
      <Line use="Every amount in the plan. Amounts keep their numbers when the currency changes. English word rules ship.">
        Money is counted in{' '}
        <ChoiceChip
          label="Currency"
          value={plan.currency}
          choices={currencyChoices}
          onChoose={(value) => void choose(brief, 'currency', value)}
        />
        , keywords are in{' '}
        <ChoiceChip
          label="Language"
          value={plan.language}
          choices={[{ value: 'en', words: 'English' }]}
          onChoose={() => {}}
        />
        , and a day begins by the clock of{' '}
        <Fact document={kept} at="timeZone" label="Time zone" value={set.timeZone} shown={set.timeZone} />.
      </Line>
      <Line use="Kept with the plan. Only search campaigns are built here: display, video and shopping are out of scope.">
        The aim is{' '}
        <ChoiceChip
          label="Goal"
          value={set.goal}
          choices={goalChoices}
          onChoose={(value) => void choose(kept, 'goal', value)}
        />{' '}
        by <b>search campaigns</b>. The site is about{' '}
        <Fact
          document={kept}
          at="category"
          label="Category of the site"
          value={set.category}
          shown={set.category || 'anything'}
        />{' '}
        and <Adults facts={kept} />.
      </Line>
    </Part>
  );
}

/** Asked twice, since it narrows what may run. */
function Adults({ facts: kept }: { facts: Document<Facts> }) {
  const [asking, setAsking] = useState(false);
  const adults = kept.value?.adults ?? false;
  const set = async (value: boolean) => {
    setAsking(false);
    await choose(kept, 'adults', value);
  };
  return (
    <>
      <ChoiceChip
        label="Who the site is for"
        value={adults ? 'adults' : 'all'}
        choices={[
          { value: 'all', words: 'is for everyone' },
          { value: 'adults', words: 'is for adults only' },
        ]}
        onChoose={(value) => (value === 'adults' ? setAsking(true) : void set(false))}
      />
      {asking && (
        <Sheet title="For adults only?" onClose={() => setAsking(false)}>
          <p>
            Outlets narrow what may run for adult sites: fewer networks, fewer places, no partners. Say so
            only if the site itself shows it to adults alone.
          </p>
          <div className="mt-4 flex gap-2">
            <button type="button" className="btn btn-error btn-sm" onClick={() => void set(true)}>
              The site is for adults only
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => setAsking(false)}>
              It is for everyone
            </button>
          </div>
        </Sheet>
      )}
    </>
  );
}

function WordsPart({ facts: kept, language }: { facts: Document<Facts>; language: string }) {
  const set = kept.value as Facts;
  const own = [...languagePack(language).functionWords];
  const edit = (at: string) => (value: unknown) => kept.edit(at, value);
  return (
    <Part title="Its words">
      <Line use="Written as here in names and ads, in every case style.">
        It serves{' '}
        <LinesChip
          label="Places"
          shown={few(
            set.places.map(([name = '']) => name),
            'no place in particular',
          )}
          text={facts.writeForms(set.places)}
          placeholder={'Wrenport | wren port\nHeronsea'}
          help="A place to a line; other spellings after |."
          read={facts.readForms}
          onKeep={edit('places')}
        />{' '}
        and offers{' '}
        <LinesChip
          label="Offers"
          shown={few(
            set.offers.map(({ text }) => text),
            'nothing special',
          )}
          text={facts.writeOffers(set.offers)}
          placeholder={'Free delivery in Eastmere\nSpring sale | from 2027-03-01 | until 2027-03-31'}
          help="An offer to a line, with its days if it has some."
          read={facts.readOffers}
          onKeep={edit('offers')}
        />
        .
      </Line>
      <Line use="Brands are written as here. Rivals: a ready filter in Prune finds keywords that name them.">
        Ads may name{' '}
        <LinesChip
          label="Brands that may be used"
          shown={few(set.brands, 'no brand')}
          text={facts.writeLines(set.brands)}
          placeholder={'Otterline\nBrackwater'}
          help="A brand to a line, written as it should read."
          read={facts.readLines}
          onKeep={edit('brands')}
        />{' '}
        but never{' '}
        <LinesChip
          label="Rivals that may not be named"
          shown={few(set.rivals, 'any rival')}
          text={facts.writeLines(set.rivals)}
          placeholder="Fathom & Reed"
          help="A rival to a line."
          read={facts.readLines}
          onKeep={edit('rivals')}
        />
        .
      </Line>
      <Line use="Casing: ad group names and ads. Function words: Title Case, look-alikes, word review. Synonyms: kept for matching in later stages.">
        These words are always written{' '}
        <LinesChip
          label="Casing list"
          shown={few(set.casing, 'by the case style')}
          text={facts.writeLines(set.casing)}
          placeholder={'SUP\niPaddle'}
          help="A word or phrase to a line, as it should always read."
          read={facts.readLines}
          onKeep={edit('casing')}
        />
        ; these carry no meaning{' '}
        <LinesChip
          label="Function words"
          shown={
            set.functionWords === null
              ? `${counted(own.length, 'English word')}`
              : few(set.functionWords, 'none')
          }
          text={facts.writeLines(set.functionWords ?? own)}
          placeholder={own.join('\n')}
          help="A word to a line. Empty the list to count every word."
          read={(typed) => {
            const read = facts.readLines(typed.toLowerCase());
            return 'value' in read && read.value.join() === own.join() ? { value: null } : read;
          }}
          onKeep={edit('functionWords')}
        />
        ; these stand for each other{' '}
        <LinesChip
          label="Synonyms"
          shown={few(
            set.synonyms.map((words) => words.join(' = ')),
            'none',
          )}
          text={facts.writeSynonyms(set.synonyms)}
          placeholder="sup = paddle board"
          help="Words that mean the same, with = between them."
          read={facts.readSynonyms}
          onKeep={edit('synonyms')}
        />
        .
      </Line>
    </Part>
  );
}

const networks = ['search', 'partners', 'display'] as const;

function ReachPart({ facts: kept }: { facts: Document<Facts> }) {
  const set = kept.value as Facts;
  const used = `Written into the campaigns sheet of ${plainOutlet.name}, for every campaign.`;
  const places = (at: 'locations' | 'locationsOut', label: string, none: string) => (
    <LinesChip
      label={label}
      shown={few(
        set[at].map(({ name }) => name),
        none,
      )}
      text={facts.writeLocations(set[at])}
      placeholder={'Eastmere, region\nWrenport, town\nWR1 4AB, postal'}
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

function SpendPart({ facts: kept, children }: { facts: Document<Facts>; children: ReactNode }) {
  const set = kept.value as Facts;
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

import type { Brief, Facts } from '@sprig/contracts';
import { languagePack } from '@sprig/core/text';
import { useState } from 'react';
import type { Document } from '../../data/document.ts';
import { useOpenPlan } from '../../data/plan.ts';
import { Only } from '../../kit/allowed.tsx';
import { ChoiceChip, MoneyChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { Yield } from '../../kit/Yield.tsx';
import {
  AimPart,
  choose,
  Fact,
  few,
  Line,
  Part,
  ReachPart,
  SpendPart,
} from '../../plan/settings/CampaignSettings.tsx';
import { currencyChoices, goalChoices } from '../../plan/settings/choices.ts';
import * as facts from '../../plan/settings/read-facts.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useLayout } from '../../plan/use-layout.ts';
import { useShippedTo } from '../../plan/use-outlets.ts';
import { askedOfSite } from './asked-of-site.ts';
import { BriefOutsets } from './BriefOutsets.tsx';
import { usePlanBrief } from './use-plan-brief.ts';

const USED = 'Written into the campaigns sheet, for every campaign that has no settings of its own in Build.';

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
        <Only access="build" className="mx-auto max-w-[1180px] px-6 pt-4 pb-16">
          <BriefOutsets />
          <ClientPart brief={brief} facts={kept} />
          <WordsPart facts={kept} language={plan.brief.language} />
          <ReachPart facts={kept} used={USED} />
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
          <AimPart facts={kept} />
        </Only>
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

function ClientPart({ brief, facts: kept }: { brief: Document<Brief>; facts: Document<Facts> }) {
  const set = kept.value as Facts;
  const plan = brief.value as Brief;
  const ofSite = askedOfSite(useShippedTo(useOpenPlan().id) ?? [], set);
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
      <Line use={ofSite.goal}>
        The aim is{' '}
        <ChoiceChip
          label="Goal"
          value={set.goal}
          choices={goalChoices}
          onChoose={(value) => void choose(kept, 'goal', value)}
        />{' '}
        by <b>search campaigns</b>.
      </Line>
      <Line use="Figures that lists tell and those set by hand always go first, then estimates from them. What is made up never decides anything. Of other plans only what this one does not tell is learned from, CPCs only in its currency, each time this plan is built.">
        What nobody told{' '}
        <ChoiceChip
          label="Who is asked for figures"
          value={set.market}
          choices={[
            { value: 'none', words: 'is estimated, or stays unknown' },
            { value: 'stand-in', words: 'is made up by the stand-in market where it can’t be estimated' },
          ]}
          onChoose={(value) => void choose(kept, 'market', value)}
        />
        . Estimates are learned from what was told{' '}
        <ChoiceChip
          label="Whose figures estimates are learned from"
          value={set.learnFrom}
          choices={[
            { value: 'own', words: 'in this plan' },
            { value: 'workspace', words: 'in all plans of the same language and countries' },
          ]}
          onChoose={(value) => void choose(kept, 'learnFrom', value)}
        />
        .
      </Line>
      {(ofSite.asksKind || ofSite.asksAdults) && (
        <Line use={ofSite.site}>
          {ofSite.asksKind && (
            <>
              The site is about{' '}
              <Fact
                document={kept}
                at="category"
                label="Category of the site"
                value={set.category}
                shown={set.category || 'anything'}
              />
              .
            </>
          )}
          {ofSite.asksAdults && (
            <>
              {' '}
              {ofSite.asksKind ? 'It' : 'The site'} <Adults facts={kept} />.
            </>
          )}
        </Line>
      )}
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
        <Dialog title="For adults only?" onClose={() => setAsking(false)}>
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
        </Dialog>
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
          placeholder={'Milltown | mill town\nNorthbridge'}
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
          placeholder={'Free delivery\nSpring sale | from 2027-03-01 | until 2027-03-31'}
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
      <Line use="Casing: ad group names and ads. Function words: Title Case, look-alikes, word review. Synonyms: what answers a search, and fences.">
        These words are always written{' '}
        <LinesChip
          label="Casing list"
          shown={few(set.casing, 'by the case style')}
          text={facts.writeLines(set.casing)}
          placeholder={'DIY\neBook'}
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
          placeholder="sofa = couch"
          help="Words that mean the same, with = between them."
          read={facts.readSynonyms}
          onKeep={edit('synonyms')}
        />
        .
      </Line>
    </Part>
  );
}

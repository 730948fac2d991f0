import { inCase, languagePack } from '@sprig/core/text';
import type { VersionName } from '@sprig/core/write';
import { useState } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { useAddress } from '../../kit/address.ts';
import { useCommands, viewRuns } from '../../kit/commands.ts';
import { count } from '../../kit/format.ts';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { NothingYet } from '../../plan/NothingYet.tsx';
import { useWorked } from '../../pool/use-pool.ts';
import { AddressesView } from './AddressesView.tsx';
import { AdTable } from './AdTable.tsx';
import { writeCommands, writeViews } from './commands.ts';
import { DeskView } from './desk/DeskView.tsx';
import { ExtrasView } from './ExtrasView.tsx';
import { HeadlineKeywords } from './HeadlineKeywords.tsx';
import { LinesView } from './LinesView.tsx';
import { formOf, MeasureChips, MeasureProvider, measureBy, measureFor } from './measure.tsx';
import { PatternsRibbon } from './PatternsRibbon.tsx';
import { SearcherView } from './SearcherView.tsx';
import { StartingLines } from './StartingLines.tsx';
import { themeChoices } from './theme-choices.ts';
import { useAdInView } from './use-ad-in-view.ts';
import { useAdPlace } from './use-ad-place.ts';
import { useCures } from './use-cures.ts';
import { useWriteActions } from './use-write-actions.ts';
import { useAdChecks, useAdWriter, useWriting, type WritingState } from './use-writing.ts';
import { WriteYield } from './WriteYield.tsx';

const noFields: [] = [];
/** While the plan's outlets are fetched. */
const UNKNOWN = measureBy([], '');

/** The pattern's lines above, the ads as they read below; and the same ads as a searcher, in a table, by address. */
export function WriteStage() {
  const plan = useOpenPlan();
  const [params, set] = useAddress();
  const view = writeViews.find(([id]) => id === params.get('view'))?.[0] ?? '';
  const writing = useWriting(plan, Number(params.get('pattern') ?? 0), params.get('outlet') ?? '');
  const { pool, fit, document, chosen, input, asked } = writing;
  const actions = useWriteActions(plan.id, document);
  const checks = useAdChecks(writing);
  const made = useAdWriter(writing);
  const [version, setVersion] = useState<VersionName>('a');
  const [headline, setHeadline] = useState<string | null>(null);
  const total = fit?.chosen.groups ?? 0;
  const { place, setPlace, ordered, nextMisfit, misfitsFirst, going } = useAdPlace(
    writing,
    params.get('group'),
    set,
  );
  const misfits = fit?.chosen.misfits ?? 0;
  const { data: group = null } = useWorked(
    async () => (fit ? ((await pool.worker.writeGroups(place, place + 1))[0] ?? null) : null),
    `${asked}:${place}:${misfits}:${total}:${fit?.ordered}:${ordered}`,
  );
  const body = document.value?.patterns[chosen];
  const kept = document.kept?.patterns[chosen];
  const isReading = view === '' || view === 'searcher';
  const whole = writing.measure ?? UNKNOWN;
  const measure = body && isReading ? measureFor(whole, body) : whole;
  const form = body ? formOf(measure, body.form) : null;
  const shownVersion = body?.split.by === 'none' ? 'a' : version;
  const { ads, ad, values, norms } = useAdInView(plan.id, group, made, {
    pattern: chosen,
    version: shownVersion,
  });
  const counts = fit?.chosen.versions[shownVersion === 'b' ? 1 : 0];
  const themes = useThemes(writing);
  const { data: siteName = '' } = useWorked(
    async () =>
      inCase(
        (await pool.worker.siteWords(plan.brief.site)).join(' '),
        'title',
        languagePack(plan.brief.language),
      ),
    `site:${plan.brief.site}:${pool.length}`,
  );

  const { cures, cure } = useCures(writing, counts);
  useCommands(writeCommands, {
    ...viewRuns(writeViews, (id) => set({ view: id })),
    ...(isReading && {
      next: () => setPlace((at) => Math.max(0, Math.min(total - 1, at + 1))),
      back: () => setPlace((at) => Math.max(0, at - 1)),
      misfit: () => {
        going.current = nextMisfit();
      },
      front: () => void misfitsFirst(),
      mend: () => void going.current.then(() => requestAnimationFrame(openMisfit)),
      cure: (event) => void cure(Number(event?.key) - 1),
      version: () => setVersion((one) => (one === 'a' ? 'b' : 'a')),
    }),
  });

  if (plan.counts.keywords === 0)
    return (
      <NothingYet todo="write">
        Every ad group gets ads made from patterns. Ad groups are made of keywords.
      </NothingYet>
    );
  const allAds = fit?.patterns.reduce((sum, one) => sum + one.ads, 0) ?? 0;
  return (
    <MeasureProvider value={measure}>
      <WriteHead
        view={view}
        ads={allAds}
        without={fit?.without ?? 0}
        measure={writing.measure}
        onAddress={set}
      />
      {(view === '' || view === 'searcher') && document.value && (
        <PatternsRibbon
          value={document.value}
          fits={fit?.patterns ?? noFields}
          chosen={chosen}
          actions={actions}
          onChoose={(id) => {
            setPlace(0);
            set({ pattern: String(id) });
          }}
          onStart={() => set({ start: 'lines' })}
        />
      )}
      {view === '' && kept && whole.shipped.length > 0 && measure.outlets.length === 0 && (
        <p role="status" className="shrink-0 px-4 py-1.5 text-warning">
          This plan ships to no outlet that this pattern is for: it makes no ads.
        </p>
      )}
      {view === '' && kept && measure.outlets.length > 0 && measure.outlet.ad[kept.form] === null && (
        <p role="status" className="shrink-0 px-4 py-1.5 text-warning">
          {measure.at === '' ? 'No outlet of this plan' : measure.outlet.name} takes{' '}
          {kept.form === 'plain' ? 'plain' : 'assembled'} ads: this pattern makes none there.
        </p>
      )}
      {view === '' && kept && form && (
        <LinesView
          plan={plan.id}
          writing={writing}
          body={kept}
          form={form}
          themes={themes}
          group={group}
          inView={{ ads, ad, values, norms }}
          counts={counts}
          checks={checks}
          made={made}
          siteName={siteName}
          focused={params.get('field')}
          version={shownVersion}
          onVersion={setVersion}
          place={place}
          onPlace={setPlace}
          ordered={ordered}
          onNextMisfit={() => void nextMisfit()}
          onMisfitsFirst={() => void misfitsFirst()}
          cures={cures}
          onCure={(at) => void cure(at)}
          onKeywords={setHeadline}
        />
      )}
      {view === 'searcher' && (
        <SearcherView
          plan={plan}
          group={group}
          ads={ads}
          chosen={chosen}
          norms={norms}
          place={place}
          total={total}
          onPlace={setPlace}
        />
      )}
      {view === 'ads' && <AdTable plan={plan} writing={writing} actions={actions} />}
      {view === 'desk' && <DeskView plan={plan} writing={writing} made={made} />}
      {view === 'addresses' && <AddressesView plan={plan} writing={writing} themes={themes} />}
      {view === 'extras' && <ExtrasView plan={plan} />}
      {params.get('start') === 'lines' && input && made && document.value && (
        <StartingLines
          input={input}
          group={group}
          made={made}
          value={document.value}
          siteName={siteName}
          actions={actions}
          onTaken={(id) => set({ start: '', pattern: String(id) })}
          onClose={() => set({ start: '' })}
        />
      )}
      {headline !== null && (
        <HeadlineKeywords plan={plan} headline={headline} onClose={() => setHeadline(null)} />
      )}
      <WriteYield plan={plan} fit={fit} counts={counts} />
    </MeasureProvider>
  );
}

/** Opens the first unfilled field of the ad in view, or its first headline, to be written by hand. */
function openMisfit() {
  const article = window.document.querySelector('article[aria-current=true]');
  const field = article?.querySelector('[data-bad=true]') ?? article?.querySelector('[data-field]');
  field?.closest<HTMLElement>('[data-edit]')?.click();
}

const useThemes = ({ pool, input }: ReturnType<typeof useWriting>) => {
  const { data = noFields } = useWorked(
    async () => themeChoices(await pool.worker.writeThemeNames()),
    `theme-names:${input?.builtRevision}`,
  );
  return data;
};

type HeadProps = {
  view: (typeof writeViews)[number][0];
  ads: number;
  /** Ad groups that have no ad. */
  without: number;
  measure: WritingState['measure'];
  onAddress: (change: Record<string, string>) => void;
};

/** The views of Write, and by which outlet ads are measured. */
const WriteHead = ({ view, ads, without, measure, onAddress }: HeadProps) => (
  <section aria-label="Write" className="flex h-11 shrink-0 items-center gap-1.5 border-hair border-b px-4">
    <ViewButtons
      views={writeViews}
      current={view}
      figures={{ ads: count(ads) }}
      onView={(id) => onAddress({ view: id })}
    />
    <span className="ml-auto" />
    {without > 0 && <span className="text-error">{count(without)} ad groups have no ad</span>}
    {measure && <MeasureChips measure={measure} onAt={(at) => onAddress({ outlet: at })} />}
  </section>
);

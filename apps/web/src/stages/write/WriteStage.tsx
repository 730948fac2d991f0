import { guardedWords, readGroup } from '@sprig/contracts';
import { tokensOf } from '@sprig/core/ads';
import { inCase, languagePack } from '@sprig/core/text';
import { type AdField, adFields, type VersionName } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { useOpenPlan } from '../../data/plan.ts';
import { question } from '../../data/question.ts';
import { useAddress } from '../../kit/address.ts';
import { useCommands, viewRuns } from '../../kit/commands.ts';
import { Empty } from '../../kit/Empty.tsx';
import { count } from '../../kit/format.ts';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { useWorked } from '../../pool/use-pool.ts';
import { AddressesView } from './AddressesView.tsx';
import { AdNotes } from './AdNotes.tsx';
import { AdStrip } from './AdStrip.tsx';
import { AdTable } from './AdTable.tsx';
import { writeCommands, writeViews } from './commands.ts';
import { ExtrasView } from './ExtrasView.tsx';
import { fieldName } from './field-names.ts';
import { HeadlineKeywords } from './HeadlineKeywords.tsx';
import { formOf, MeasureChips, MeasureProvider, measureBy } from './measure.tsx';
import { PatternLines } from './PatternLines.tsx';
import { PatternSentence } from './PatternSentence.tsx';
import { PatternsRibbon } from './PatternsRibbon.tsx';
import { SearcherView } from './SearcherView.tsx';
import { StartingLines } from './StartingLines.tsx';
import { themeChoices } from './theme-choices.ts';
import { useWriteActions } from './use-write-actions.ts';
import { useAdChecks, useAdWriter, useWriting } from './use-writing.ts';

const noFields: [] = [];
/** While the plan's outlets are fetched. */
const UNKNOWN = measureBy([], '');

/** The pattern's lines above, the ads as they read below; and the same ads as a searcher, in a table, by address. */
export function WriteStage() {
  const plan = useOpenPlan();
  const [params, set] = useAddress();
  const view = writeViews.find(([id]) => id === params.get('view'))?.[0] ?? '';
  const writing = useWriting(plan, Number(params.get('pattern') ?? 0), params.get('outlet') ?? '');
  const { pool, fit, document, chosen, input, hold, release, asked } = writing;
  const actions = useWriteActions(plan.id, document);
  const checks = useAdChecks(writing);
  const made = useAdWriter(writing);
  const [place, setPlace] = useState(0);
  const [version, setVersion] = useState<VersionName>('a');
  const [ordered, setOrdered] = useState(0);
  const [headline, setHeadline] = useState<string | null>(null);
  const wanted = params.get('group');
  const total = fit?.chosen.groups ?? 0;
  const misfits = fit?.chosen.misfits ?? 0;
  const { data: group = null } = useWorked(
    async () => (fit ? ((await pool.worker.writeGroups(place, place + 1))[0] ?? null) : null),
    `${asked}:${place}:${misfits}:${total}:${fit?.ordered}:${ordered}`,
  );
  const body = document.value?.patterns[chosen];
  const kept = document.kept?.patterns[chosen];
  const measure = writing.measure ?? UNKNOWN;
  const form = body ? formOf(measure, body.form) : null;
  const shownVersion = body?.split.by === 'none' ? 'a' : version;
  const ads = useMemo(() => (group && made ? made.writer.of(group).ads : noFields), [group, made]);
  const ad = ads.find((one) => one.pattern === chosen && one.version === shownVersion);
  const values = useMemo(() => (group && made ? tokensOf(group, made.common) : {}), [group, made]);
  const { data: page } = useQuery({
    ...question(readGroup, { params: { plan: plan.id, group: group?.key ?? '' } }),
    enabled: group !== null,
  });
  const norms = useMemo(
    () => (page ? [...new Set(page.rows.map(({ text }) => text.toLowerCase()))] : null),
    [page],
  );
  const counts = fit?.chosen.versions[shownVersion === 'b' ? 1 : 0];
  const worst = worstField(counts);
  const { data: cures = null } = useWorked(
    async () =>
      worst && document.value === document.kept
        ? { field: worst, list: await pool.worker.cures(chosen, worst) }
        : null,
    `cures:${asked}:${worst}:${misfits}`,
  );
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

  useEffect(() => {
    if (!wanted || !fit) return;
    pool.worker.writePlaceOf(wanted).then((found) => {
      if (found >= 0) setPlace(found);
      set({ group: '' });
    });
  }, [wanted, fit, pool.worker, set]);
  useEffect(() => {
    if (place > 0 && place >= total && total > 0) setPlace(total - 1);
  }, [place, total]);

  const cure = useCallback(
    async (at: number) => {
      const line = cures?.list[at]?.line;
      if (!cures || !line || !kept) return;
      const field = cures.field as AdField;
      const words = await document.edit(`patterns.${chosen}.fields.${field}.lines`, [
        ...kept.fields[field].lines,
        line,
      ]);
      if (words) toast.error(words);
    },
    [cures, kept, document, chosen],
  );
  const { worker } = pool;
  const nextMisfit = useCallback(async () => {
    const next = await worker.nextMisfit(place);
    if (next >= 0) setPlace(next);
  }, [worker, place]);
  // Keys go faster than the worker: what is pressed next is of the ad that was gone to.
  const going = useRef<Promise<unknown>>(Promise.resolve());
  const misfitsFirst = useCallback(async () => {
    await worker.misfitsFirst();
    setOrdered((times) => times + 1);
    setPlace(0);
  }, [worker]);
  const isReading = view === '' || view === 'searcher';
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
      <div className="grid flex-1 place-items-center">
        <Empty title="Nothing to write yet">
          <p className="mb-3">Every ad group gets ads made from patterns. Ad groups are made of keywords.</p>
          <Link to="../gather" className="btn btn-primary btn-sm">
            Gather keywords
          </Link>
        </Empty>
      </div>
    );
  const onHold = (key: string, field: string, text: string) => hold(key, field as AdField, text);
  const onLetGo = (key: string, field: string) => release([{ rowKey: key, field }]);
  const allMisfits = fit?.patterns.reduce((sum, one) => sum + one.misfits, 0) ?? 0;
  const allAds = fit?.patterns.reduce((sum, one) => sum + one.ads, 0) ?? 0;
  return (
    <MeasureProvider value={measure}>
      <section
        aria-label="Write"
        className="flex h-11 shrink-0 items-center gap-1.5 border-hair border-b px-4"
      >
        <ViewButtons
          views={writeViews}
          current={view}
          figures={{ ads: count(allAds) }}
          onView={(id) => set({ view: id })}
        />
        <span className="ml-auto" />
        {fit && fit.without > 0 && (
          <span className="text-error">{count(fit.without)} ad groups have no ad</span>
        )}
        {writing.measure && <MeasureChips measure={measure} onAt={(at) => set({ outlet: at })} />}
      </section>
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
      {view === '' && kept && measure.outlet.ad[kept.form] === null && (
        <p role="status" className="shrink-0 px-4 py-1.5 text-warning">
          {measure.at === '' ? 'No outlet of this plan' : measure.outlet.name} takes{' '}
          {kept.form === 'plain' ? 'plain' : 'assembled'} ads: this pattern makes none there.
        </p>
      )}
      {view === '' && kept && form && (
        <>
          <div className="flex items-start justify-between gap-3">
            <PatternSentence
              key={chosen}
              id={chosen}
              body={kept}
              document={document}
              themes={themes}
              groupInView={group}
            />
            {kept.split.by !== 'none' && (
              <span className="flex shrink-0 items-center gap-1 px-4 text-[13px]">
                {(['a', 'b'] as const).map((one, at) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={shownVersion === one}
                    className={`chip ${shownVersion === one ? '' : 'chip-off'}`}
                    onClick={() => setVersion(one)}
                  >
                    {kept.split.labels[at]}
                  </button>
                ))}
                <span className="key">v</span>
              </span>
            )}
          </div>
          <PatternLines
            key={`${chosen}:${kept.form}`}
            id={chosen}
            body={kept}
            form={form}
            document={document}
            counts={counts}
            fields={ad?.fields}
            values={values}
            siteName={siteName}
            focused={params.get('field')}
          />
          <div className="flex min-h-0 flex-1">
            <AdStrip
              writing={writing}
              place={place}
              onPlace={setPlace}
              ordered={ordered}
              onNextMisfit={() => void nextMisfit()}
              onMisfitsFirst={() => void misfitsFirst()}
              version={shownVersion}
              cures={cures}
              onCure={(at) => void cure(at)}
              onHold={onHold}
              onLetGo={onLetGo}
            />
            {group && ad && checks && made && input && (
              <AdNotes
                group={group}
                ad={ad}
                body={kept}
                norms={norms}
                values={values}
                checks={checks}
                writer={made.writer}
                words={guardedWords(input.facts)}
                rules={made.rules}
                onHold={onHold}
                onKeywords={setHeadline}
              />
            )}
          </div>
        </>
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
      <Yield
        terms={[
          { id: 'groups', figure: count(fit?.groups), words: 'ad groups' },
          { id: 'ads', figure: count(allAds), words: 'ads' },
          { id: 'fit', figure: count(allAds - allMisfits), words: 'fit' },
          {
            id: 'misfits',
            figure: count(allMisfits),
            words: allMisfits === 1 ? 'does not fit' : 'do not fit',
            tone: allMisfits > 0 ? 'bad' : 'plain',
            more: fit && (
              <table>
                <tbody>
                  {adFields
                    .filter((name) => (counts?.fields[name]?.unfilled ?? 0) > 0)
                    .map((name) => (
                      <tr key={name}>
                        <td className="pr-6">{fieldName(name)}</td>
                        <td className="pr-6 text-right">{count(counts?.fields[name]?.unfilled)} unfilled</td>
                        <td className="text-faint">
                          {(counts?.fields[name]?.leastOverrun ?? 0) > 0
                            ? `the nearest is ${counts?.fields[name]?.leastOverrun} too long`
                            : 'no line'}
                        </td>
                      </tr>
                    ))}
                  {allMisfits === 0 && (
                    <tr>
                      <td>Every field is filled in every group.</td>
                    </tr>
                  )}
                </tbody>
              </table>
            ),
          },
          { id: 'rows', figure: count(plan.counts.rows), words: 'keyword rows to ship with them' },
        ]}
      />
    </MeasureProvider>
  );
}

/** The field that is unfilled most often. */
function worstField(
  counts: { fields: Partial<Record<AdField, { unfilled: number }>> } | undefined,
): AdField | null {
  let worst: AdField | null = null;
  for (const name of adFields) {
    const now = counts?.fields[name]?.unfilled ?? 0;
    if (now > 0 && now > (worst ? (counts?.fields[worst]?.unfilled ?? 0) : 0)) worst = name;
  }
  return worst;
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

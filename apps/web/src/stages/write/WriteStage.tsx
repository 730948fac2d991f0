import { casingList, editPattern, readPattern } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/ship';
import { type AdField, type AdPattern, adFields } from '@sprig/core/write';
import { useCallback, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../../api/call.ts';
import { useDocument } from '../../api/document.ts';
import { useOpenPlan } from '../../api/plan.ts';
import { count } from '../../kit/format.ts';
import { inTextField, useKeys } from '../../kit/keys.ts';
import { Empty } from '../../kit/marks.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { useFacts } from '../../plan/use-facts.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { useLayout } from '../../plan/use-layout.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { AdStrip } from './AdStrip.tsx';
import { fieldNames } from './field-names.ts';
import { PatternLines } from './PatternLines.tsx';

/** The pattern's lines above, the ads as they read below, one group after another. */
export function WriteStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const layout = useLayout(plan.id);
  const { holds, hold, release } = useHolds(plan.id);
  const facts = useFacts(plan.id);
  const pattern = useDocument<AdPattern>({
    plan: plan.id,
    name: 'pattern',
    read: async () => (await call(readPattern, { params: { plan: plan.id } })).pattern,
    write: editPattern,
  });
  const [params, setParams] = useSearchParams();
  const [place, setPlace] = useState(0);
  const wanted = params.get('group');
  const field = params.get('field');
  const { currency, language, site } = plan.brief;
  const input =
    pattern.value && layout.value && facts.value
      ? {
          pattern: pattern.value,
          layout: layout.value,
          facts: facts.value,
          holds,
          currency,
          language,
          site,
          outlet: plainOutlet,
        }
      : null;
  const question = `${pool.revision}:${JSON.stringify([pattern.value, layout.value?.groupName, holds.length, holds.map(({ value }) => value), site, facts.value && casingList(facts.value)])}`;
  const { data: fits } = useWorked(async () => (input ? pool.worker.fit(input) : null), question);
  const { data: chosen } = useWorked(
    async () => (fits ? ((await pool.worker.ads(place, place + 1))[0] ?? null) : null),
    `${question}:${place}:${fits?.misfits}:${fits?.groups}`,
  );
  const total = fits?.groups ?? 0;
  const misfits = fits?.misfits ?? 0;

  useEffect(() => {
    if (!wanted || !fits) return;
    pool.worker.placeOf(Number(wanted.slice(1))).then((found) => {
      if (found >= 0) setPlace(found);
      setParams({}, { replace: true });
    });
  }, [wanted, fits, pool.worker, setParams]);
  useEffect(() => {
    if (place > 0 && place >= total && total > 0) setPlace(total - 1);
  }, [place, total]);

  const onKey = useCallback(
    (event: KeyboardEvent) => {
      if (inTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'j' || event.key === 'ArrowRight') setPlace((at) => Math.min(total - 1, at + 1));
      else if (event.key === 'k' || event.key === 'ArrowLeft') setPlace((at) => Math.max(0, at - 1));
      else if (event.key === 'm') setPlace((at) => (at < misfits ? Math.min(misfits, total - 1) : 0));
    },
    [misfits, total],
  );
  useKeys(onKey);

  if (plan.counts.keywords === 0)
    return (
      <div className="grid flex-1 place-items-center">
        <Empty title="Nothing to write yet">
          <p className="mb-3">
            Every ad group gets an ad made from one pattern. Ad groups are made of keywords.
          </p>
          <Link to="../gather" className="btn btn-primary btn-sm">
            Gather keywords
          </Link>
        </Empty>
      </div>
    );
  return (
    <>
      <PatternLines pattern={pattern} counts={fits} ad={chosen?.ad.fit} focused={field as AdField | null} />
      <AdStrip
        worker={pool.worker}
        version={`${question}:${fits?.misfits}:${fits?.groups}`}
        total={total}
        misfits={misfits}
        place={place}
        onPlace={setPlace}
        site={site}
        onHold={(key, at, text) => hold(`${key}/a1`, at, text)}
        onLetGo={(key, at) => release([{ rowKey: `${key}/a1`, field: at }])}
      />
      <Yield
        terms={[
          { id: 'groups', figure: count(total), words: 'ad groups' },
          { id: 'ads', figure: count(total), words: 'ads' },
          { id: 'fit', figure: count(total - misfits), words: 'fit' },
          {
            id: 'misfits',
            figure: count(misfits),
            words: misfits === 1 ? 'does not fit' : 'do not fit',
            tone: misfits > 0 ? 'bad' : 'plain',
            more: fits && (
              <table>
                <tbody>
                  {adFields
                    .filter((name) => fits.fields[name].unfilled > 0)
                    .map((name) => (
                      <tr key={name}>
                        <td className="pr-6">{fieldNames[name]}</td>
                        <td className="pr-6 text-right">{count(fits.fields[name].unfilled)} unfilled</td>
                        <td className="text-faint">
                          {fits.fields[name].leastOverrun > 0
                            ? `the nearest is ${fits.fields[name].leastOverrun} too long`
                            : 'no line'}
                        </td>
                      </tr>
                    ))}
                  {fits.badAddresses > 0 && (
                    <tr>
                      <td className="pr-6">Final URL</td>
                      <td className="text-right">{count(fits.badAddresses)} without an address</td>
                    </tr>
                  )}
                  {misfits === 0 && (
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
    </>
  );
}

import {
  casingList,
  checkRules,
  dayIn,
  editAddressRule,
  editPattern,
  type FieldEdit,
  type PlanState,
  readPatterns,
  refusedTexts,
} from '@sprig/contracts';
import { HeldAds } from '@sprig/core/ads';
import type { AdChecks, RefusedText } from '@sprig/core/findings';
import { type PlanAdRules, planAds, planChecks } from '@sprig/core/plan';
import type { AddressRule, AdPattern } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../../data/call.ts';
import { type Document, useDocument } from '../../data/document.ts';
import { question } from '../../data/question.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { useShippedTo } from '../../plan/use-outlets.ts';
import { adRulesOf, type WriteInput } from '../../pool/pattern-fits.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { measureBy } from './measure.tsx';

/** The plan's patterns by their numbers, their order, and how final URLs are made. */
export type Patterns = { patterns: Record<number, AdPattern>; order: number[]; address: AddressRule };

/** A name that no other pattern has. */
export function freePatternName({ patterns }: Pick<Patterns, 'patterns'>, name: string): string {
  const names = new Set(Object.values(patterns).map((pattern) => pattern.name));
  let free = name;
  for (let n = 2; names.has(free); n++) free = `${name} ${n}`;
  return free;
}

async function readAll(plan: number): Promise<Patterns> {
  const { patterns, address } = await call(readPatterns, { params: { plan } });
  return {
    patterns: Object.fromEntries(patterns.map(({ id, body }) => [id, body])),
    order: patterns.map(({ id }) => id),
    address,
  };
}

/** `patterns.3.fields.…` is an edit of pattern 3, `address.path` one of the address rule. */
function sendEdit(plan: number, { at, before, after }: FieldEdit): Promise<unknown> {
  const [part, ...rest] = at.split('.');
  if (part === 'address')
    return call(editAddressRule, {
      params: { plan },
      body: { edits: [{ at: rest.join('.'), before, after }] },
    });
  const [pattern, ...within] = rest;
  return call(editPattern, {
    params: { plan, pattern: Number(pattern) },
    body: { edits: [{ at: within.join('.'), before, after }] },
  });
}

const usePatterns = (plan: number): Document<Patterns> =>
  useDocument<Patterns>({ plan, of: readPatterns, read: () => readAll(plan), write: sendEdit });

const noRefused: RefusedText[] = [];

/** Everything that ads are written from, and how the chosen pattern fares, as it is typed. */
export function useWriting(plan: PlanState, wanted: number, outletKey: string) {
  const pool = usePool();
  const { holds, hold, release } = useHolds(plan.id);
  const facts = useFacts(plan.id);
  const document = usePatterns(plan.id);
  const { data: refused = noRefused } = useQuery({
    ...question(refusedTexts, { params: { plan: plan.id } }),
    select: ({ texts }) => texts,
  });
  const { language, site } = plan.brief;
  const order = document.value?.order ?? [];
  const chosen = order.includes(wanted) ? wanted : (order[0] ?? 0);
  const today = dayIn(facts.value?.timeZone ?? 'UTC', new Date());
  const ofAds = useMemo(() => holds.filter(({ rowKey }) => rowKey.includes('/a')), [holds]);
  const { value } = document;
  const outlets = useShippedTo(plan.id);
  const measure = useMemo(() => outlets && measureBy(outlets, outletKey), [outlets, outletKey]);
  const factsNow = facts.value;
  const input = useMemo<WriteInput | null>(
    () =>
      value && factsNow && measure
        ? {
            plan: plan.id,
            builtRevision: plan.builtRevision,
            patterns: value.order.flatMap((id) => {
              const body = value.patterns[id];
              return body ? [{ id, body }] : [];
            }),
            address: value.address,
            holds: ofAds,
            language,
            site,
            facts: factsNow,
            today,
            outlet: measure.outlet,
          }
        : null,
    [plan.id, plan.builtRevision, value, ofAds, language, site, factsNow, today, measure],
  );
  const isDrafted = document.value !== document.kept;
  const asked = useMemo(
    () =>
      `${plan.builtRevision}:${chosen}:${JSON.stringify([
        input?.patterns,
        ofAds.map(({ rowKey, field, value: text }) => [rowKey, field, text]),
        site,
        input && casingList(input.facts),
        input?.facts.offers,
        input?.facts.brands,
        input?.outlet.key,
        input?.outlet.ad,
      ])}`,
    [plan.builtRevision, chosen, input, ofAds, site],
  );
  const { data: fit } = useWorked(
    async () => (input ? pool.worker.fit(input, chosen, isDrafted) : null),
    `${asked}:${isDrafted}`,
  );
  return {
    pool,
    holds: ofAds,
    hold,
    release,
    facts: factsNow,
    refused,
    document,
    chosen,
    input,
    fit,
    asked,
    measure,
  };
}

export type WritingState = ReturnType<typeof useWriting>;

/** Writes ads here, at once, while the worker counts all of them. */
export function useAdWriter({ input, holds, pool, asked }: WritingState) {
  const { data: themes } = useWorked(
    () => pool.worker.writeThemes(),
    `themes:${input?.builtRevision}:${asked.length > 0}`,
  );
  const held = useMemo(() => new HeldAds(holds), [holds]);
  return useMemo(() => {
    if (!input) return null;
    const rules = adRulesOf(input, { held, themes: themes ?? NO_THEMES });
    return {
      writer: planAds(rules, input.outlet),
      rules: rules.writing,
      common: rules.common,
      held,
      themes: rules.themes,
    };
  }, [input, held, themes]);
}

/** What ads are made with, here and now. */
export type AdMaking = NonNullable<ReturnType<typeof useAdWriter>>;

const NO_THEMES: PlanAdRules['themes'] = new Map();

/** What is looked for in ads, by the plan's facts. */
export function useAdChecks({ input, refused }: WritingState): AdChecks | null {
  return useMemo(
    () => input && planChecks(checkRules({ ...input, refused }), input.outlet),
    [input, refused],
  );
}

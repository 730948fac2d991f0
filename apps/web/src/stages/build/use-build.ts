import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { runChange } from '../../data/run-change.ts';
import { counted } from '../../kit/format.ts';

export const measures = ['searches', 'keywords', 'cost'] as const;
export type Measure = (typeof measures)[number];

/** Campaigns with their largest ad groups, the fences, and what the last rebuild did. */
export const useBuildView = (plan: number, by: Measure) =>
  useQuery({
    ...question(api.viewBuild, {
      params: { plan },
      query: { by: by === 'keywords' ? 'keywords' : 'searches' },
    }),
    placeholderData: keepPreviousData,
  });

export const useGroupPage = (plan: number, group: string | null) =>
  useQuery({
    ...question(api.readGroup, { params: { plan, group: group ?? '' } }),
    enabled: group !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });

export const useSettingSets = (plan: number) =>
  useQuery({
    ...question(api.listSettingSets, { params: { plan } }),
    select: ({ sets }) => sets,
    placeholderData: keepPreviousData,
  });

/** The settings that belong to the workspace. */
export const useSharedSettings = (plan: number) =>
  useQuery({
    ...question(api.listSharedSettings, { params: { plan } }),
    select: ({ shared }) => shared,
    placeholderData: keepPreviousData,
  });

export type BuildActions = ReturnType<typeof actionsOf>;

/** What is done by hand to what is built. Each is one change, told in words; a refusal is told and answers false. */
export const useBuildActions = (plan: number): BuildActions => useMemo(() => actionsOf(plan), [plan]);

function actionsOf(plan: number) {
  /** `work` answers the words of what was done, or none. */
  const run = async (work: () => Promise<string>): Promise<boolean> =>
    (await runChange(plan, work, (words) => words)) !== null;
  const params = { plan };
  return {
    many: (
      rowKeys: string[],
      field: 'status' | 'step' | 'budget' | 'settings',
      value: string | number,
      words: string,
    ) =>
      run(async () => {
        await call(api.holdMany, { params, body: { rowKeys, field, value: value as never } });
        return words;
      }),
    label: (rowKeys: string[], { add, remove }: { add: string[]; remove: string[] }) =>
      run(async () => {
        const { held } = await call(api.labelMany, { params, body: { rowKeys, add, remove } });
        return `${counted(held, 'row')} of ${counted(rowKeys.length, 'row')} have other labels now.`;
      }),
    letGo: (places: { rowKey: string; field: string }[]) =>
      run(async () => {
        await call(api.letGo, { params, body: { places } });
        const back = places.length === 1 ? 'value is' : 'values are';
        return `Let ${counted(places.length, 'value')} go. The rule’s ${back} back.`;
      }),
    addNegatives: (places: string[], negatives: { text: string; type: 'broad' | 'phrase' | 'exact' }[]) =>
      run(async () => {
        const { added } = await call(api.placeNegatives, { params, body: { places, negatives } });
        return added === 0 ? 'They are there already.' : `Added ${counted(added, 'negative keyword')}.`;
      }),
    removeNegatives: (ids: number[]) =>
      run(async () => {
        await call(api.removePlacedNegatives, { params, body: { ids } });
        return `Removed ${counted(ids.length, 'negative keyword')}.`;
      }),
    attach: (list: number, campaigns: string[] | null) =>
      run(async () => {
        await call(api.attachToCampaigns, { params: { plan, list }, body: { campaigns } });
        return '';
      }),
    copy: (of: string, name: string, ads: boolean) =>
      run(async () => {
        await call(api.copyBuilt, { params, body: { of, name, ads } });
        return `Copied ${name}. The copy follows the first from now on.`;
      }),
    removeCopy: (key: string) =>
      run(async () => {
        await call(api.removeCopy, { params, body: { key } });
        return 'Took the copy away.';
      }),
    makeSet: (name: string, from: number | null, campaigns: string[]) =>
      run(async () => {
        await call(api.makeSettingSet, { params, body: { name, from, campaigns } });
        return `Made the settings ${name}.`;
      }),
    shareSet: (set: number, shared: boolean) =>
      run(async () => {
        await call(api.shareSettingSet, { params: { plan, set }, body: { shared } });
        return shared ? 'They are the workspace’s now.' : 'They are this plan’s own now.';
      }),
    takeShared: (shared: number, campaigns: string[]) =>
      run(async () => {
        await call(api.takeSharedSettings, { params: { plan, shared }, body: { campaigns } });
        return 'Took settings of the workspace.';
      }),
    removeSet: (set: number) =>
      run(async () => {
        await call(api.removeSettingSet, { params: { plan, set } });
        return 'Removed the settings.';
      }),
  };
}

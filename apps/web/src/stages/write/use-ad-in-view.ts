import { readGroup } from '@sprig/contracts';
import { tokensOf } from '@sprig/core/ads';
import type { VersionName } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { question } from '../../data/question.ts';
import type { useAdWriter, WritingState } from './use-writing.ts';

type Group = Awaited<ReturnType<WritingState['pool']['worker']['writeGroups']>>[number];
type Of = { pattern: number; version: VersionName };

/** The ads of the ad group in view, the one that is written, what its tokens stand for, and the keywords it is for. */
export function useAdInView(plan: number, group: Group | null, made: ReturnType<typeof useAdWriter>, of: Of) {
  const ads = useMemo(() => (group && made ? made.writer.of(group).ads : noFields), [group, made]);
  const ad = ads.find((one) => one.pattern === of.pattern && one.version === of.version);
  const values = useMemo(() => (group && made ? tokensOf(group, made.common) : {}), [group, made]);
  const { data: page } = useQuery({
    ...question(readGroup, { params: { plan, group: group?.key ?? '' } }),
    enabled: group !== null,
  });
  const norms = useMemo(
    () => (page ? [...new Set(page.rows.map(({ text }) => text.toLowerCase()))] : null),
    [page],
  );
  return { ads, ad, values, norms };
}

const noFields: [] = [];

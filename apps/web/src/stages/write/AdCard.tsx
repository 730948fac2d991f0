import type { WrittenAd } from '@sprig/core/ads';
import {
  type AdField,
  adFields,
  descriptions,
  type FieldFit,
  headlines,
  paths,
  textOf,
} from '@sprig/core/write';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { count } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Tie } from '../../kit/Tie.tsx';
import type { WriteGroup } from '../../pool/pattern-fits.ts';
import { fieldName } from './field-names.ts';

type Props = {
  group: WriteGroup;
  ad: WrittenAd | undefined;
  /** How many ads the group has in all. */
  adsInGroup: number;
  isChosen: boolean;
  onChoose: () => void;
  site: string;
  onHold: (ad: string, field: AdField | 'finalUrl', text: string) => Promise<string | null>;
  onLetGo: (ad: string, field: string) => Promise<string | null>;
  /** What came of it, in a line. */
  results?: ReactNode;
};

/** A field without a text: what is to be written there, where a line says it. */
export const unfilledWords = (field: AdField, fit: FieldFit): string =>
  fit.status === 'unfilled' && fit.why === 'gap'
    ? `${fieldName(field)}: ${fit.about || 'still to be written'}`
    : `${fieldName(field)} is unfilled`;

/** One ad as it reads, every text edited where it stands. */
export function AdCard({ group, ad, adsInGroup, isChosen, onChoose, site, onHold, onLetGo, results }: Props) {
  const host = site
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/.*$/, '');
  const isMisfit = ad !== undefined && adFields.some((name) => ad.fields[name]?.status === 'unfilled');
  const letGo = (field: string) => {
    if (ad) void onLetGo(ad.key, field).then((words) => words && toast.error(words));
  };
  const field = (at: AdField, look: string) => {
    const fit = ad?.fields[at];
    if (!ad || !fit || fit.status === 'empty') return null;
    const text = textOf(fit);
    const bad = fit.status === 'unfilled';
    const live = fit.status === 'fits' && fit.live.length > 0;
    return (
      <span key={at} className={`inline-flex max-w-full items-center ${look}`}>
        <InlineEdit
          label={`${fieldName(at)} of ${group.name}`}
          shown={
            <span
              data-field={at}
              data-bad={bad}
              title={live ? 'Filled in at search time; this is what is fallen back on' : undefined}
              className={`whitespace-normal ${bad ? 'text-error underline decoration-wavy decoration-1' : ''} ${live ? 'border-info border-b-2' : ''}`}
            >
              {text || unfilledWords(at, fit)}
            </span>
          }
          text={text}
          wide
          onKeep={(typed) => onHold(ad.key, at, typed)}
        />
        {ad.kept[at] !== undefined && (
          <span className="ml-1 shrink-0 rounded bg-base-200 px-1 text-[11px] text-faint">
            always {ad.kept[at]}.
          </span>
        )}
        {ad.covered?.[at] !== undefined && <Tie rule={`“${ad.covered[at]}”`} onLetGo={() => letGo(at)} />}
      </span>
    );
  };
  const { final } = ad?.address ?? {};
  const border = isMisfit ? 'border-error/60' : 'border-hair';
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: j and k choose by keyboard
    <article
      aria-label={`Ad of ${group.name}`}
      aria-current={isChosen || undefined}
      data-misfit={isMisfit}
      className={`flex h-full flex-col rounded-md border bg-base-100 ${isChosen ? 'border-primary ring-1 ring-primary' : border}`}
      onClick={onChoose}
    >
      <header className="flex items-baseline justify-between gap-2 border-base-200 border-b px-3 py-1.5 text-[12px] text-faint">
        <span className="truncate">for “{group.keyword}”</span>
        <span className="shrink-0">
          {group.searches === null ? '–' : `${count(group.searches)} searches`}
          {adsInGroup > 1 && ` · ${adsInGroup} ads`}
        </span>
      </header>
      {results && (
        <p className="border-base-200 border-b px-3 py-1 text-[12px] text-faint empty:hidden">{results}</p>
      )}
      <div className="flex min-h-0 flex-1 flex-col gap-1 overflow-auto px-3 py-2">
        <p className="text-[13px] text-faint">
          {host || 'no site yet'}
          {paths.map((at) => {
            const shown = field(at, '');
            return shown && <span key={at}> / {shown}</span>;
          })}
        </p>
        <p className="font-semibold text-[16px] leading-6">
          {headlines.map((at) => {
            const shown = field(at, '');
            return (
              shown && (
                <span key={at} className="block">
                  {shown}
                </span>
              )
            );
          })}
        </p>
        <div className="mt-0.5 text-[13.5px] leading-5">{descriptions.map((at) => field(at, 'block'))}</div>
        {ad === undefined && (
          <p className="text-faint">Says the same as another ad of the group; not made twice.</p>
        )}
      </div>
      <footer className="flex items-center gap-1 border-base-200 border-t px-3 py-1 text-[12px] text-faint">
        {ad && (
          <InlineEdit
            label={`Final URL of ${group.name}`}
            shown={
              final?.status === 'address' ? (
                `leads to ${final.href}`
              ) : (
                <span className="text-error">No sound final URL. Set the plan’s site, or write it out.</span>
              )
            }
            text={final?.status === 'address' ? final.href : ''}
            wide
            onKeep={(typed) => onHold(ad.key, 'finalUrl', typed)}
          />
        )}
        {ad?.covered?.finalUrl !== undefined && (
          <Tie rule={ad.covered.finalUrl} onLetGo={() => letGo('finalUrl')} />
        )}
      </footer>
    </article>
  );
}

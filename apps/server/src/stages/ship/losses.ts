import { pasteRows, writeTextField } from '@sprig/core/sheets';
import type { Response } from 'express';
import type { PlanCaller } from '../../platform/caller.ts';
import { sendCarried } from './carried.ts';

/** Streams every row of which an outlet loses something, as a csv sheet. */
export function sendLosses(caller: PlanCaller, outlet: string, response: Response): Promise<void> {
  let heading = 'What,Campaign,Ad group,Row,Becomes\r\n';
  const file = { name: `not-carried-by-${outlet}.csv`, type: 'text/csv; charset=utf-8' };
  return sendCarried(caller, outlet, response, file, (_, losses) => {
    const lines = losses.map(({ rule, campaign, group, text, becomes }) =>
      [rule, campaign, group, text, becomes].map((cell) => writeTextField(cell, ',')).join(','),
    );
    const text = heading + lines.map((line) => `${line}\r\n`).join('');
    heading = '';
    return text;
  });
}

/**
 * Streams all keywords and negatives in the outlet's notation, for pasting, each beside its campaign and ad group: a
 * negative of one ad group is often a keyword of another, and one list of both would block what it brings.
 */
export function sendKeywords(caller: PlanCaller, outlet: string, response: Response): Promise<void> {
  const file = { name: `keywords-for-${outlet}.txt`, type: 'text/plain; charset=utf-8' };
  let heading = 'Campaign\tAd group\tKeyword\n';
  return sendCarried(caller, outlet, response, file, ({ negatives, groups }, _, profile) => {
    const rows = groups.flatMap((group) => [...group.keywords, ...group.negatives]);
    const text =
      heading +
      pasteRows([...negatives, ...rows], profile)
        .map((cells) => `${cells.join('\t')}\n`)
        .join('');
    heading = '';
    return text;
  });
}

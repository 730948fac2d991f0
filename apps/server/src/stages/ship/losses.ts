import { pasteColumn, writeField } from '@sprig/core/ship';
import type { Response } from 'express';
import type { PlanCaller } from '../../caller.ts';
import { sendCarried } from './carried.ts';

/** Streams every row of which an outlet loses something, as a csv sheet. */
export function sendLosses(caller: PlanCaller, outlet: string, response: Response): Promise<void> {
  let heading = 'What,Campaign,Ad group,Row,Becomes\r\n';
  const file = { name: `not-carried-by-${outlet}.csv`, type: 'text/csv; charset=utf-8' };
  return sendCarried(caller, outlet, response, file, (_, losses) => {
    const lines = losses.map(({ rule, campaign, group, text, becomes }) =>
      [rule, campaign, group, text, becomes].map((cell) => writeField(cell, ',')).join(','),
    );
    const text = heading + lines.map((line) => `${line}\r\n`).join('');
    heading = '';
    return text;
  });
}

/** Streams all keywords and negatives as one column in the outlet's notation, for pasting; each once. */
export function sendColumn(caller: PlanCaller, outlet: string, response: Response): Promise<void> {
  const told = new Set<string>();
  const file = { name: `keywords-for-${outlet}.txt`, type: 'text/plain; charset=utf-8' };
  return sendCarried(caller, outlet, response, file, ({ negatives, groups }, _, profile) => {
    const rows = groups.flatMap((group) => [...group.keywords, ...group.negatives]);
    const fresh = pasteColumn([...negatives, ...rows], profile).filter((text) => !told.has(text));
    for (const text of fresh) told.add(text);
    return fresh.map((text) => `${text}\n`).join('');
  });
}

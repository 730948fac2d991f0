import { z } from 'zod';
import { count, id, idText, nothing, planParams, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import type { Facts } from './brief.ts';
import { viewForecast } from './build/bids.ts';
import { MOST_ON_CLIENT_PAGE, readClientPage } from './build/client-page.ts';
import { linkToken } from './door.ts';

/** What can be left out of the page that a client reads. */
export const clientParts = ['keywords', 'bids', 'ads', 'forecast', 'out'] as const;
export type ClientPart = (typeof clientParts)[number];

const howMany = z.number().int().min(1).max(MOST_ON_CLIENT_PAGE);
/** How much of the plan is shown. */
export const clientView = z.strictObject({
  groups: howMany,
  keywords: howMany,
  without: z.array(z.enum(clientParts)).max(clientParts.length),
});
export type ClientView = z.infer<typeof clientView>;

const MOST_CLIENT_DAYS = 366;

const clientLinkView = z.object({
  id,
  /** For whom it is. */
  name: z.string(),
  view: clientView,
  from: z.string(),
  madeAt: z.string(),
  endsAt: z.string(),
  /** When it was read last; null: never. */
  readAt: z.string().nullable(),
  timesRead: count,
});
export type ClientLinkView = z.infer<typeof clientLinkView>;

/** Links by which a client reads the plan without an account, those that work. */
export const listClientLinks = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/client-links',
  access: 'build',
  reads: ['people'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ links: z.array(clientLinkView) }),
});

/** Makes such a link; it is answered this once. */
export const makeClientLink = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/client-links',
  access: 'build',
  changes: ['people'],
  params: planParams,
  query: nothing,
  body: z.strictObject({
    name: text(200).refine((name) => name.trim() !== '', 'Say for whom it is.'),
    view: clientView,
    days: z.number().int().min(1).max(MOST_CLIENT_DAYS, `A link works for ${MOST_CLIENT_DAYS} days at most.`),
  }),
  answer: z.object({ id, link: z.string() }),
});

export const endClientLink = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/client-links/:link',
  access: 'build',
  changes: ['people'],
  params: planParams.extend({ link: idText }),
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** What the page says of the plan beside what is built; what the link leaves out is not in it. */
export const sharedPlan = z.object({
  name: z.string(),
  client: z.string(),
  site: z.string(),
  currency: z.string(),
  counts: z.object({ rows: count, cut: count, blocked: count }),
  locations: z.array(z.string()),
  languages: z.array(z.string()),
  networks: z.object({ search: z.boolean(), partners: z.boolean(), display: z.boolean() }),
  /** How many times of the week are chosen. */
  times: count,
  starts: z.string().nullable(),
  ends: z.string().nullable(),
  /** The month that forecasts are of, 1 to 12. */
  month: z.number().int().min(1).max(12).nullable(),
  isBehind: z.boolean(),
  page: readClientPage.answer,
  forecast: viewForecast.answer.nullable(),
});
export type SharedPlan = z.infer<typeof sharedPlan>;

/** What a client reads of a plan's facts. */
export const clientFactsOf = ({
  client,
  locations,
  languages,
  networks,
  schedule,
  starts,
  ends,
  assumptions,
}: Facts) => ({
  client,
  locations: locations.map(({ name }) => name),
  languages,
  networks,
  times: schedule.length,
  starts,
  ends,
  month: assumptions.season?.month ?? null,
});

/** What a client reads by a link. */
export const readSharedPlan = endpoint({
  method: 'POST',
  path: '/api/client/read',
  access: 'open',
  reads: [],
  changes: [],
  params: nothing,
  query: nothing,
  body: z.strictObject({ token: linkToken }),
  answer: z.object({ view: clientView, endsAt: z.string(), from: z.string(), plan: sharedPlan }),
});

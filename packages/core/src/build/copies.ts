import { itemAt } from '../access/index.ts';
import { asMicros } from '../money/index.ts';
import { baseFor } from './bid.ts';
import type { CampaignFrame, Frame, GroupFrame, OwnKeywords } from './frame.ts';
import { type Covered, type Hold, heldText, labelsOf, statusOf } from './hold.ts';
import type { Layout } from './layout.ts';
import { isMoreSearched } from './top-keywords.ts';

/** Makes campaigns and groups once more; a copy of what is not made makes nothing. */
export function addCopies(frame: Frame) {
  const { copies, layout } = frame.input;
  for (const { id, of, name, ads, own } of copies) {
    const prefix = `x${id}.`;
    const campaign = frame.campaigns.findIndex(({ key }) => key === of);
    if (campaign >= 0) {
      const made = heldCampaign(
        frame,
        { ...itemAt(frame.campaigns, campaign), key: prefix + of, covered: null, name },
        layout,
      );
      const at = frame.campaigns.push({ ...made, position: frame.campaigns.length }) - 1;
      for (const group of frame.groups.filter((one) => one.campaign === campaign))
        frame.groups.push(copyOf(frame, ofCampaign(frame, group, made.key), prefix, at, group.name, ads));
      continue;
    }
    const group = frame.groups.find(({ key }) => key === of);
    if (own) {
      const made = ownGroup(frame, group ?? null, own);
      if (made) frame.groups.push(copyOf(frame, { ...made, key: of }, prefix, made.campaign, name, ads));
      continue;
    }
    if (group) frame.groups.push(copyOf(frame, group, prefix, group.campaign, name, ads));
  }
  if (copies.length > 0) frame.groups.sort((a, b) => a.campaign - b.campaign);
}

/**
 * What a copy is made of that follows the first no more: its own keywords that are there, by the rules of where it stands.
 * Null where none of them is, or its campaign is not.
 */
function ownGroup(frame: Frame, first: GroupFrame | null, own: OwnKeywords): GroupFrame | null {
  const { keywords, layout } = frame.input;
  const campaign = first?.campaign ?? frame.campaigns.findIndex(({ key }) => key === own.campaign);
  const like = first ?? frame.groups.find((one) => one.campaign === campaign);
  const wanted = new Set(own.keywords);
  const laneAt = like?.lane ? layout.lanes.findIndex(({ id }) => id === like.lane?.id) : -1;
  const hasRows = (at: number) =>
    laneAt < 0 ? frame.typesOf(at).some((set) => set > 0) : (frame.typesOf(at)[laneAt] ?? 0) > 0;
  const members = keywords.flatMap(({ id }, at) => (wanted.has(id) && hasRows(at) ? [at] : []));
  if (!like || members.length === 0) return null;
  const lead = members.reduce((best, at) => (isMoreSearched(keywords, at, best) ? at : best));
  const theme = first?.theme ?? 0;
  const [base, baseFrom] = baseFor(layout, null, theme === 0 ? null : frame.medianOf(theme));
  return {
    ...like,
    kind: 'theme',
    theme,
    members,
    lead,
    base,
    baseFrom,
    step: 10_000,
    steps: like.step === 10_000 ? like.steps : like.steps.slice(0, -1),
    status: 'enabled',
    labels: [],
    part: 1,
    parts: 1,
    stage: first?.stage ?? null,
    ads: first?.ads ?? true,
    prefix: '',
    covered: null,
  };
}

/** A group as it would be in the copy of its campaign, which may have a default bid of its own. */
function ofCampaign(frame: Frame, group: GroupFrame, campaign: string): GroupFrame {
  const bid = frame.holds.get(campaign, 'bid')?.value;
  return bid === undefined || group.baseFrom !== 'default'
    ? group
    : { ...group, base: asMicros(Number(bid)) };
}

function heldCampaign(frame: Frame, made: CampaignFrame, { dailyBudget, ladder }: Layout): CampaignFrame {
  const held = frame.holds.of(made.key);
  const labels = held?.get('labels')?.value;
  const names = new Set(frame.campaigns.map(({ name }) => name.toLowerCase()));
  const budget = held?.get('budget')?.value;
  const covered: Covered = {};
  if (budget !== undefined) covered.budget = dailyBudget;
  if (held?.has('bid')) covered.bid = ladder.defaultBase;
  if (held?.has('status')) covered.status = 'enabled';
  return {
    ...made,
    name: freeName(heldText(frame.holds, made.key, 'name') ?? made.name, names),
    dailyBudget: budget === undefined ? made.dailyBudget : asMicros(Number(budget)),
    status: statusOf(held, made.status),
    labels: labels === undefined ? made.labels : labelsOf(String(labels)),
    settings: held?.has('settings') ? Number(held.get('settings')?.value) : made.settings,
    covered: Object.keys(covered).length > 0 ? covered : null,
  };
}

function copyOf(
  frame: Frame,
  group: GroupFrame,
  prefix: string,
  campaign: number,
  name: string,
  ads: boolean,
): GroupFrame {
  const key = prefix + group.key;
  const held = frame.holds.of(key);
  const names = new Set(
    frame.groups.filter((one) => one.campaign === campaign).map((one) => one.name.toLowerCase()),
  );
  const copy: GroupFrame = {
    ...group,
    key,
    prefix: prefix + group.prefix,
    campaign,
    name: freeName(heldText(frame.holds, key, 'name') ?? name, names),
    status: statusOf(held, group.status),
    ads: ads && group.ads,
    covered: null,
  };
  return held ? withHeld(frame, copy, held) : copy;
}

/** A copy follows the first but for what is held of it. */
function withHeld(frame: Frame, copy: GroupFrame, held: ReadonlyMap<string, Hold>): GroupFrame {
  const [bid, step, labels, lead] = (['bid', 'step', 'labels', 'lead'] as const).map(
    (field) => held.get(field)?.value,
  );
  const covered: Covered = {};
  const next = { ...copy };
  if (bid !== undefined) {
    covered.bid = copy.base;
    next.base = asMicros(Number(bid));
    next.baseFrom = 'held';
  }
  if (step !== undefined) {
    covered.step = copy.step;
    next.step = Number(step);
    // The first one's own step is the last of its steps.
    next.steps = [...(copy.step === 10_000 ? copy.steps : copy.steps.slice(0, -1)), next.step];
  }
  if (held.has('status')) covered.status = 'enabled';
  if (labels !== undefined) next.labels = labelsOf(String(labels));
  if (lead !== undefined)
    next.lead = copy.members.find((at) => itemAt(frame.input.keywords, at).id === Number(lead)) ?? copy.lead;
  return { ...next, covered: Object.keys(covered).length > 0 ? covered : null };
}

function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name.toLowerCase())) return name;
  for (let number = 2; ; number++) {
    const numbered = `${name} (${number})`;
    if (!taken.has(numbered.toLowerCase())) return numbered;
  }
}

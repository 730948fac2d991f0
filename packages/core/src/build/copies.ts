import { itemAt } from '../access/index.ts';
import { asMicros } from '../money/index.ts';
import type { CampaignFrame, Frame, GroupFrame } from './frame.ts';
import { heldText, statusOf } from './hold.ts';
import type { Layout } from './layout.ts';

/** Makes campaigns and groups once more; a copy of what is not made makes nothing. */
export function addCopies(frame: Frame) {
  const { copies, layout } = frame.input;
  for (const { id, of, name, ads } of copies) {
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
        frame.groups.push(copyOf(frame, group, prefix, at, group.name, ads));
      continue;
    }
    const group = frame.groups.find(({ key }) => key === of);
    if (group) frame.groups.push(copyOf(frame, group, prefix, group.campaign, name, ads));
  }
  if (copies.length > 0) frame.groups.sort((a, b) => a.campaign - b.campaign);
}

function heldCampaign(frame: Frame, made: CampaignFrame, { dailyBudget }: Layout): CampaignFrame {
  const held = frame.holds.of(made.key);
  const names = new Set(frame.campaigns.map(({ name }) => name.toLowerCase()));
  const budget = held?.get('budget')?.value;
  return {
    ...made,
    name: freeName(heldText(frame.holds, made.key, 'name') ?? made.name, names),
    dailyBudget: budget === undefined ? made.dailyBudget : asMicros(Number(budget)),
    status: statusOf(held, made.status),
    settings: held?.has('settings') ? Number(held.get('settings')?.value) : made.settings,
    covered: budget === undefined ? null : { budget: dailyBudget },
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
  const bid = held?.get('bid')?.value;
  return {
    ...group,
    key,
    prefix: prefix + group.prefix,
    campaign,
    name: freeName(heldText(frame.holds, key, 'name') ?? name, names),
    base: bid === undefined ? group.base : asMicros(Number(bid)),
    baseFrom: bid === undefined ? group.baseFrom : 'held',
    status: statusOf(held, group.status),
    ads: ads && group.ads,
    covered: bid === undefined ? null : { bid: group.base },
  };
}

function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name.toLowerCase())) return name;
  for (let number = 2; ; number++) {
    const numbered = `${name} (${number})`;
    if (!taken.has(numbered.toLowerCase())) return numbered;
  }
}

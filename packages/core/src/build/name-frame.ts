import { itemAt, stringAt } from '../access/index.ts';
import type { FunnelStage, Line, TokenValues } from '../text/index.ts';
import type { BuildKeyword } from './build-keyword.ts';
import type { CampaignFrame, Frame, GroupFrame } from './frame.ts';
import { heldText } from './hold.ts';
import type { Layout, NameRule } from './layout.ts';
import { givenNames, nameByRule, nameLine } from './names.ts';
import type { ThemeRules } from './theme-rules.ts';

const UNPLACED_NAME = 'Unplaced';
const stageWords: Record<FunnelStage, string> = { early: 'Early', comparing: 'Comparing', ready: 'Ready' };

/**
 * Gives campaigns and ad groups their names by the patterns, unique within the plan and within their campaign; what is
 * held keeps its place and rule names give way to it. Naming twice is naming once. O(groups).
 */
export function nameFrame(frame: Frame, rules: ReadonlyMap<number, ThemeRules>): void {
  new FrameNames(frame, rules).give();
}

class FrameNames {
  private readonly lines: Record<'single' | 'theme', NameLine>;

  constructor(
    private readonly frame: Frame,
    private readonly rules: ReadonlyMap<number, ThemeRules>,
  ) {
    const { layout } = frame.input;
    this.lines = { single: namedBy(layout.groupName), theme: namedBy(layout.themeName) };
  }

  give() {
    const { campaigns, groups } = this.frame;
    this.nameAll(campaigns, this.campaignRules());
    for (let from = 0; from < groups.length; ) {
      const { campaign } = itemAt(groups, from);
      let to = from;
      while (to < groups.length && groups[to]?.campaign === campaign) to++;
      const own = groups.slice(from, to);
      const lane = campaigns[campaign]?.lane ?? null;
      this.nameAll(
        own,
        own.map((group) => this.groupRule(group, lane)),
      );
      from = to;
    }
  }

  private nameAll(frames: readonly (CampaignFrame | GroupFrame)[], rules: readonly string[]) {
    const helds = frames.map(({ key }) => heldText(this.frame.holds, key, 'name'));
    const names = givenNames(rules, helds);
    for (let at = 0; at < frames.length; at++) {
      const one = itemAt(frames, at);
      one.name = stringAt(names, at);
      if (helds[at] !== undefined) one.covered = { ...one.covered, name: stringAt(rules, at) };
      else if (one.covered?.name !== undefined) {
        const { name: _, ...covered } = one.covered;
        one.covered = Object.keys(covered).length > 0 ? covered : null;
      }
    }
  }

  private campaignRules(): string[] {
    const { campaigns, seeds, input } = this.frame;
    const { layout, pack, casing, sources } = input;
    const line = nameLine(layout.campaignName);
    return campaigns.map(({ lane }, at) => {
      const { theme, place, stage, source } = itemAt(seeds, at);
      const none = layout.campaignBy === 'theme' ? UNPLACED_NAME : '';
      const themeName = theme === null ? none : (this.rules.get(theme.id)?.theme.name ?? none);
      const values: TokenValues = {
        theme: themeName,
        branch: themeName,
        place: place ?? '',
        stage: stage ? stageWords[stage] : '',
        source: sources?.get(source ?? 0) ?? '',
      };
      const name = nameByRule(line, values, 'as-is', pack, casing) || fallbackName(layout);
      return lane && lane.name !== '' ? `${name} – ${lane.name}` : name;
    });
  }

  private groupRule(group: GroupFrame, campaignLane: CampaignFrame['lane']): string {
    const { keywords, pack, casing } = this.frame.input;
    const { line, style, saysMore } = this.lines[group.kind];
    const keyword = itemAt(keywords, group.lead);
    const shown = style === 'as-is' ? keyword.text : keyword.norm;
    const values = saysMore ? { ...this.groupValues(group, keyword), keyword: shown } : { keyword: shown };
    const name = nameByRule(line, values, style, pack, casing) || keyword.norm;
    if (group.part === 1 && group.lane === null) return name;
    const part = group.part > 1 ? ` ${group.part}` : '';
    const lane = group.lane && !campaignLane && group.lane.name !== '' ? ` · ${group.lane.name}` : '';
    return name + part + lane;
  }

  private groupValues(group: GroupFrame, keyword: BuildKeyword): TokenValues {
    const rules = this.rules.get(group.theme);
    return {
      theme: rules?.theme.name ?? UNPLACED_NAME,
      branch: rules?.top.name ?? UNPLACED_NAME,
      place: group.place ?? '',
      stage: group.stage ? stageWords[group.stage] : '',
      source: this.frame.input.sources?.get(keyword.sources?.[0] ?? 0) ?? '',
    };
  }
}

type NameLine = NameRule & { line: Line; saysMore: boolean };

/** A name rule read once; most say the keyword alone. */
function namedBy(rule: NameRule): NameLine {
  const line = nameLine(rule.pattern);
  const saysMore = line.parts.some((part) => part.kind === 'token' && part.name !== 'keyword');
  return { ...rule, line, saysMore };
}

const fallbackName = ({ campaignName }: Layout): string =>
  campaignName.replace(/@\w+/g, '').trim() || 'Campaign';

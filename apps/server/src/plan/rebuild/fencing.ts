import type { FenceFigures } from '@sprig/contracts';
import {
  auditFences,
  type BuildKeyword,
  type BuiltRow,
  type CampaignFrame,
  type Frame,
  type GroupFrame,
  makeFences,
  RowBuilder,
} from '@sprig/core/build';
import { AnswerIndex, codeOf, type IndexedRow, synonymsOf } from '@sprig/core/match';
import type { Outlet } from '@sprig/core/outlets';
import { hashOf, languagePack } from '@sprig/core/text';
import { type BlockInput, Blocks } from '../blocks.ts';
import { settingsOf } from '../setting-sets.ts';
import { overlapTable, targetingOf } from '../targeting.ts';
import { HashSum } from './hash-sum.ts';
import type { Inputs } from './load-inputs.ts';
import type { DerivedRow } from './replace-rows.ts';

export type Fenced = { rows: DerivedRow[]; figures: FenceFigures };

/** Collects the rows of a plan as they are walked through, and fences them where anything about them has changed. */
export class Fencing {
  private readonly rows: IndexedRow[] = [];
  private readonly mixer = new HashSum();
  private readonly isOn: boolean;

  /** `known` is the hash of the rows where they were gone through before and are the same. */
  constructor(
    private readonly inputs: Inputs,
    private readonly outlet: Outlet,
    private readonly known: number | null,
  ) {
    this.isOn = inputs.layout.fences !== 'off';
  }

  get rowsHash(): number {
    return this.known ?? this.mixer.hash;
  }

  /** Paused rows answer nothing; whether a group or its campaign is paused is looked at when they are fenced. */
  visit = (owner: number, row: BuiltRow): void => {
    if (!this.isOn || row.status === 'paused') return;
    const { text: norm, type, marks } = row;
    this.rows.push({ norm, type, marks, owner });
    this.mixer.add(owner).add(row.keywordId).add(codeOf(type));
    if (marks.length > 0) this.mixer.add(hashOf(marks.join()));
  };

  /** Of all that fences and their audit are made of. */
  hashFor(frame: Frame): number {
    if (!this.isOn) return 0;
    const { layout, facts, brief, settingSets, negatives, placedNegatives, fencesOut, listedNegatives } =
      this.inputs;
    const mixer = new HashSum().add(this.rowsHash);
    for (const { key, campaign, status } of frame.groups) {
      const { status: above, settings } = frame.campaigns[campaign] as CampaignFrame;
      mixer.add(hashOf(`${key} ${campaign} ${status} ${above} ${settings}`));
    }
    return mixer.add(
      hashOf(
        JSON.stringify([
          layout.fences,
          this.outlet.limits.negativesPerGroup,
          brief.language,
          facts.functionWords,
          facts.synonyms,
          targetingOf(facts),
          settingSets,
          negatives,
          placedNegatives,
          fencesOut,
          listedNegatives,
        ]),
      ),
    ).hash;
  }

  fence(frame: Frame, keywords: readonly BuildKeyword[]): Fenced | null {
    const { layout, facts, brief, settingSets } = this.inputs;
    if (!this.isOn) return null;
    const { groups, campaigns } = frame;
    if (this.known !== null) {
      const builder = new RowBuilder(frame);
      groups.forEach((group, at) => {
        for (const row of builder.rows(group)) this.visit(at, row);
      });
    }
    const campaignOf = (group: number) => campaigns[(groups[group] as GroupFrame).campaign] as CampaignFrame;
    const enabled = groups.map(
      ({ status }, at) => status === 'enabled' && campaignOf(at).status === 'enabled',
    );
    const pack = languagePack(brief.language, facts.functionWords);
    const index = new AnswerIndex(
      this.rows.filter(({ owner }) => enabled[owner]),
      { pack, synonyms: synonymsOf(facts.synonyms, pack) },
    );
    const targetings = campaigns.map(({ settings }) => targetingOf(settingsOf(settingSets, facts, settings)));
    const searches = new Map(keywords.map(({ norm, searches: count }) => [norm, count ?? -1]));
    const limit = this.outlet.limits.negativesPerGroup;
    const plan = {
      index,
      groups: groups.length,
      classOf: groups.map(({ campaign }) => campaign),
      overlaps: overlapTable(targetings),
      searchesOf: (text: number) => searches.get(index.textNorms[text] as string) ?? -1,
      limit,
    };
    const fences = makeFences(plan, layout.fences);
    const out = new Set(this.inputs.fencesOut.map(({ place, norm, type }) => `${place} ${type} ${norm}`));
    let [made, madePhrases] = [0, 0];
    const lists = new Map<number, { texts: string[]; phrases: number[]; keepers: string[] }>();
    for (let at = 0; at < fences.length; at++) {
      const group = fences.group[at] as number;
      const text = index.textNorms[fences.text[at] as number] as string;
      const phrase = fences.phrase[at] as number;
      if (
        out.size > 0 &&
        out.has(`${(groups[group] as GroupFrame).key} ${phrase ? 'phrase' : 'exact'} ${text}`)
      )
        continue;
      made++;
      madePhrases += phrase;
      const list = lists.get(group) ?? { texts: [], phrases: [], keepers: [] };
      lists.set(group, list);
      list.texts.push(text);
      list.phrases.push(phrase);
      list.keepers.push((groups[fences.keeper[at] as number] as GroupFrame).key);
    }
    const rows = [...lists].map(([group, { texts, phrases, keepers }]) => ({
      key: (groups[group] as GroupFrame).key,
      values: [texts, phrases, keepers],
    }));
    const blocks = this.blocks(frame, rows);
    const audit = auditFences(plan, (group, search) => blocks.blockOf(group, search) !== undefined, 0);
    return {
      rows,
      figures: {
        kind: layout.fences,
        exact: made - madePhrases,
        phrase: madePhrases,
        left: fences.left,
        groups: rows.length,
        audit: { tried: audit.tried, kept: audit.kept },
      },
    };
  }

  private blocks({ groups, campaigns }: Frame, rows: readonly DerivedRow[]): Blocks {
    const { negatives, placedNegatives, listedNegatives } = this.inputs;
    const input: BlockInput = {
      groups: groups.map(({ key, campaign }) => ({
        key,
        campaign: (campaigns[campaign] as CampaignFrame).key,
      })),
      plan: negatives,
      listed: listedNegatives,
      placed: placedNegatives,
      fences: rows.map(({ key, values }) => ({
        key,
        texts: values[0] as string[],
        phrases: values[1] as number[],
      })),
    };
    return new Blocks(input);
  }
}

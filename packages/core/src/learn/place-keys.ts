import type { MatchType } from '../match/index.ts';
import { normalise } from '../text/index.ts';
import { type Dimension, dimensions } from './grain.ts';

/** What a row of a report is of, by the names that it has there. */
export type ReportNames = Partial<Record<Dimension, string>> & { match?: MatchType | null };

/** Rows are told apart by their campaign, and within it by all else. */
const WITHIN = dimensions.slice(1);
const MOST_REMEMBERED = 50_000;

/** What rows of reports are told apart by, whatever the case of their names. Reports say the same few names again and again. */
export class PlaceKeys {
  private readonly normal = new Map<string, string>();

  campaign({ campaign }: ReportNames): string {
    return this.name(campaign);
  }

  /** All else by which a row is told apart, as one text. */
  within(names: ReportNames): string {
    let place: string = names.match ?? '';
    for (const one of WITHIN) place += `\t${this.name(names[one])}`;
    return place;
  }

  /** Both, as one text. */
  whole(names: ReportNames): string {
    return placeKey(this.campaign(names), this.within(names));
  }

  private name(name: string | undefined): string {
    if (name === undefined) return '';
    let known = this.normal.get(name);
    if (known === undefined) {
      known = normalise(name);
      if (this.normal.size < MOST_REMEMBERED) this.normal.set(name, known);
    }
    return known;
  }
}

export const placeKey = (campaign: string, within: string): string => `${campaign}\n${within}`;

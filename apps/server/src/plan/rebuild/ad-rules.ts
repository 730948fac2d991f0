import { adRules, checkRules } from '@sprig/contracts';
import { HeldAds } from '@sprig/core/ads';
import { type PlanAdRules, type PlanCheckRules, saidThemes } from '@sprig/core/plan';
import type { TextRules } from '@sprig/core/write';
import type { Inputs } from './load-inputs.ts';

/** What the plan's ads are written by. */
export const adRulesOf = ({ brief, themes, layout, holds, ...inputs }: Inputs): PlanAdRules =>
  adRules({
    ...inputs,
    language: brief.language,
    site: brief.site,
    held: new HeldAds(holds),
    themes: saidThemes(themes, layout),
  });

/** What the plan's ads are checked by. */
export const checkRulesOf = ({ brief, facts, refused }: Inputs, writing: TextRules): PlanCheckRules =>
  checkRules({ language: brief.language, site: brief.site, facts, refused }, writing);

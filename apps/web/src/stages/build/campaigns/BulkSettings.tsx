import { changeCampaigns, type SettingSet, type SettingValues, type SettledSet } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../../../data/call.ts';
import { type Document, withValue } from '../../../data/document.ts';
import { question } from '../../../data/question.ts';
import { Help } from '../../../frame/Help.tsx';
import { ChoiceChip } from '../../../kit/chips.tsx';
import { Dialog } from '../../../kit/Dialog.tsx';
import { DialogFoot } from '../../../kit/DialogFoot.tsx';
import { counted } from '../../../kit/format.ts';
import { AimPart, ReachPart, SpendPart } from '../../../plan/settings/CampaignSettings.tsx';
import { BRIEF } from './campaign-cells.ts';
import type { Settings, ShownCampaign } from './shown-campaigns.ts';
import type { CampaignChange } from './use-campaign-change.ts';

type Props = {
  plan: number;
  campaigns: readonly ShownCampaign[];
  sets: readonly SettingSet[];
  onChange: (asked: CampaignChange) => Promise<string | null>;
  onClose: () => void;
};

/** What is changed of what campaigns are set to, in words of its own. */
const FIELDS: Record<keyof Settings, string> = {
  networks: 'networks',
  locations: 'locations',
  locationsOut: 'excluded locations',
  presence: 'presence',
  languages: 'languages',
  schedule: 'schedule',
  devices: 'device adjustments',
  delivery: 'delivery',
  strategy: 'bid strategy',
  targetCost: 'target cost',
  targetReturn: 'target return',
  conversions: 'counted conversions',
  starts: 'start',
  ends: 'end',
  rotation: 'ad rotation',
  sitesOut: 'excluded sites',
};

/** What many campaigns are set to: others by name, or some of it changed while the rest stays as each has it. */
export function BulkSettings({ plan, campaigns, sets, onChange, onClose }: Props) {
  const [given, setGiven] = useState<string>('own');
  const [values, setValues] = useState<SettingValues>({});
  const [isBusy, setBusy] = useState(false);
  const first = campaigns[0];
  const keys = campaigns.map(({ key }) => key);
  const changed = Object.keys(values) as (keyof Settings)[];
  const set = given === 'brief' ? null : Number(given);
  const isOwn = given === 'own';
  const settings = isOwn ? [{ campaigns: keys, values }] : [{ campaigns: keys, set }];
  const isChange = isOwn ? changed.length > 0 : campaigns.some((one) => (one.set?.id ?? null) !== set);
  const { data: would, error } = useQuery({
    ...question(changeCampaigns, { params: { plan }, body: { values: [], settings, dry: true } }),
    enabled: isChange,
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (!first) return null;
  const what = counted(campaigns.length, 'campaign');
  const apply = async () => {
    setBusy(true);
    const words = await onChange({ values: [], settings });
    setBusy(false);
    if (words) return void toast.error(words);
    toast(`${what} have other settings.`);
    onClose();
  };
  const shown = { ...first.is, ...values } as Settings;
  const document: Document<Settings> = {
    value: shown,
    kept: shown,
    draft: () => {},
    undraft: () => {},
    edit: async (at, after) => {
      const field = at.split('.')[0] as keyof Settings;
      setValues((old) => ({
        ...old,
        [field]: withValue({ ...first.is, ...old } as Settings, at, after)[field],
      }));
      return null;
    },
  };
  const told = () => {
    if (!isChange || (!error && !would)) return <span className="text-faint">Nothing is changed yet.</span>;
    if (error) return <span className="text-error">{wordsOf(error)}</span>;
    const changes = isOwn ? `Changed: ${changed.map((field) => FIELDS[field]).join(', ')}. ` : '';
    const sets = would?.sets ?? [];
    return (
      changes + (sets.length === 0 ? 'All of them have it so already.' : sets.map(settledWords).join(' '))
    );
  };
  const isAlike = campaigns.every((one) => JSON.stringify(one.is) === JSON.stringify(first.is));
  return (
    <Dialog title={`Settings of ${what}`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        {campaigns.length === 1 ? 'It is' : 'They are'} to have{' '}
        <ChoiceChip
          label="Settings"
          value={given}
          choices={[
            { value: 'own', words: 'what is changed here' },
            { value: 'brief', words: `${BRIEF} settings` },
            ...sets.map(({ id, name }) => ({ value: String(id), words: `the settings “${name}”` })),
          ]}
          onChoose={setGiven}
        />
        .
      </p>
      {isOwn && (
        <>
          <p className="text-[12.5px] text-faint">
            {isAlike
              ? 'What you change is changed in all of them.'
              : `Shown is what “${first.name}” has. What you change is changed in all of them; the rest stays as each has it.`}
          </p>
          <ReachPart facts={document} used="In the campaigns sheet." />
          <SpendPart facts={document}>its own budget</SpendPart>
          <AimPart facts={document} />
        </>
      )}
      <div className="sticky bottom-[-16px] -mx-4 border-hair border-t bg-base-100 px-4 py-2">
        <p role="status" className="min-h-5 text-[13px]">
          {told()}
        </p>
        <DialogFoot
          words={`Change ${what}`}
          isOff={!isChange || isBusy || error !== null || !would || would.sets.length === 0}
          onDo={() => void apply()}
          onLeave={onClose}
          className="mt-1"
        />
      </div>
      <Help>
        Campaigns that are set to the same share settings by a name. Of those that others have too, the
        changed ones get settings of their own. One step of undo takes all of it back.
      </Help>
    </Dialog>
  );
}

const settledWords = ({ id, name, how, campaigns }: SettledSet): string => {
  const they = counted(campaigns, 'campaign');
  const have = campaigns === 1 ? 'has' : 'have';
  if (how === 'made') return `${they} ${have} new settings, “${name}”.`;
  if (how === 'changed') return `The settings “${name}” change, for the ${they} that ${have} them.`;
  return `${they} ${have} ${id === null ? `${BRIEF} settings` : `the settings “${name}”`}.`;
};

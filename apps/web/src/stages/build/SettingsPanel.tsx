import { editSettingSet, type SettingSet } from '@sprig/contracts';
import { call } from '../../data/call.ts';
import type { Document } from '../../data/document.ts';
import { valueAt } from '../../data/document.ts';
import { refusalOf } from '../../data/run-change.ts';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { AimPart, Fact, ReachPart, SpendPart } from '../../plan/settings/CampaignSettings.tsx';
import { type BuildActions, useSettingSets } from './use-build.ts';

type Props = { plan: number; set: number; actions: BuildActions; onClose: () => void };

/** Named campaign settings: every campaign that has them changes with them. */
export function SettingsPanel({ plan, set: id, actions, onClose }: Props) {
  const { data: sets = [] } = useSettingSets(plan);
  const set = sets.find((one) => one.id === id);
  if (!set) return null;
  const document = documentOf(plan, set);
  return (
    <Dialog title={`The settings “${set.name}”`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        They are called{' '}
        <Fact document={document} at="name" label="Name of the settings" value={set.name} shown={set.name} />.
      </p>
      <Help>Every campaign that has these settings changes with them. The brief’s stay as they are.</Help>
      <ReachPart
        facts={document}
        used="In the campaigns sheet, for the campaigns that have these settings."
      />
      <SpendPart facts={document}>its own budget</SpendPart>
      <AimPart facts={document} />
      <button
        type="button"
        className="btn btn-ghost btn-sm mt-2 text-error"
        onClick={() => void actions.removeSet(id).then((done) => done && onClose())}
      >
        Remove these settings
      </button>
    </Dialog>
  );
}

/** A set as a document that is edited in place, each edit saying what it replaces. */
function documentOf(plan: number, set: SettingSet): Document<SettingSet> {
  return {
    value: set,
    kept: set,
    draft: () => {},
    undraft: () => {},
    edit: async (at, after) => {
      const before = valueAt(set, at);
      if (JSON.stringify(before) === JSON.stringify(after)) return null;
      return refusalOf(plan, () =>
        call(editSettingSet, { params: { plan, set: set.id }, body: { edits: [{ at, before, after }] } }),
      );
    },
  };
}

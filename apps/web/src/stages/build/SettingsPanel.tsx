import { editSettingSet, type SettingSet } from '@sprig/contracts';
import { call } from '../../data/call.ts';
import type { Document } from '../../data/document.ts';
import { valueAt } from '../../data/document.ts';
import { refusalOf } from '../../data/run-change.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { AimPart, Fact, ReachPart, SpendPart } from '../../plan/settings/CampaignSettings.tsx';
import { type BuildActions, useSettingSets, useSharedSettings } from './use-build.ts';

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
      <Belonging plan={plan} set={set} actions={actions} />
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

/** Whose settings they are: this plan's, or the workspace's, which change in every plan that has them. */
function Belonging({ plan, set, actions }: { plan: number; set: SettingSet; actions: BuildActions }) {
  const { data: shared = [] } = useSharedSettings(plan);
  const own = shared.find(({ id }) => id === set.shared);
  const others = (own?.plans ?? 1) - 1;
  return (
    <p className="text-[13px]">
      {set.shared === null ? (
        <>Every campaign that has these settings changes with them. They are this plan’s own. </>
      ) : (
        <>
          They belong to the workspace:{' '}
          {others === 0
            ? 'no other plan has them yet'
            : `${counted(others, 'other plan')} ${others === 1 ? 'changes' : 'change'} with them`}
          .{' '}
        </>
      )}
      <button
        type="button"
        className="btn btn-xs font-normal"
        onClick={() => void actions.shareSet(set.id, set.shared === null)}
      >
        {set.shared === null ? 'Make them the workspace’s' : 'Make them this plan’s own'}
      </button>
    </p>
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

import {
  listSettingSets,
  listSharedSettings,
  openPlan,
  type SettingSet,
  settingSetSchema,
  shareSettingSet,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { usePlanState } from '../../data/plan.ts';
import { planState } from '../../testing/plan-state.ts';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { SettingsPanel } from './SettingsPanel.tsx';
import { useBuildActions } from './use-build.ts';

const set = (shared: number | null): SettingSet => settingSetSchema.parse({ id: 3, name: 'Nights', shared });
function Shown() {
  const { data } = usePlanState(7);
  const actions = useBuildActions(7);
  return data ? <SettingsPanel plan={7} set={3} actions={actions} onClose={() => {}} /> : null;
}

function open(shared: number | null, plans: number) {
  const asked = servedBy([
    [openPlan, () => planState],
    [listSettingSets, () => ({ sets: [set(shared)] })],
    [
      listSharedSettings,
      () => ({ shared: shared === null ? [] : [{ id: shared, name: 'Nights', plans, here: 3 }] }),
    ],
    [shareSettingSet, () => ({ revision: 2 })],
  ]);
  return { ...shownAt('/plans/7/build', <Shown />, '/plans/:plan/build'), asked };
}
const dialog = async () => within(await screen.findByRole('dialog', { name: 'The settings “Nights”' }));

describe('whose settings they are', () => {
  test.each([
    [null, 0, /this plan’s own/, 'Make them the workspace’s', true],
    [9, 1, /no other plan has them yet/, 'Make them this plan’s own', false],
    [9, 4, /3 other plans change with them/, 'Make them this plan’s own', false],
  ])('those of %s, which %i plans have', async (shared, plans, words, button, asks) => {
    const { user, asked } = open(shared, plans);
    const shown = await dialog();
    await shown.findByText(words);
    await user.click(shown.getByRole('button', { name: button }));
    await waitFor(() =>
      expect(asked.filter(({ method }) => method === 'POST')).toEqual([
        { method: 'POST', path: '/api/plans/7/setting-sets/3/share', body: { shared: asks } },
      ]),
    );
  });
});

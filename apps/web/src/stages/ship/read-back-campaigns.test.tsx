import { chooseReadBackRows, listReadBackCampaigns, type ReadBack } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { ReadBackCampaigns } from './ReadBackCampaigns.tsx';
import { UnknownColumns } from './ReadBackColumns.tsx';

const readBack = (more: Partial<ReadBack> = {}): ReadBack =>
  ({ id: '6f0a7a4e-6a3b-4a52-9b57-0f6f5d1f9a01', by: 'plain', files: [], ...more }) as ReadBack;

function open(campaigns: { campaign: string; rows: number; taken: number }[]) {
  const asked = servedBy([
    [listReadBackCampaigns, () => ({ campaigns })],
    [chooseReadBackRows, () => ({ chosen: 1 })],
  ]);
  const { user } = shownAt('/', <ReadBackCampaigns plan={7} readBack={readBack()} />);
  return { user, sent: () => asked.filter(({ method }) => method === 'POST').map(({ body }) => body) };
}

test('campaigns are taken and left as a whole; one of which a part is taken says so', async () => {
  const { user, sent } = open([
    { campaign: 'North', rows: 20, taken: 20 },
    { campaign: 'South', rows: 9, taken: 4 },
    { campaign: '', rows: 2, taken: 0 },
  ]);
  const north = await screen.findByRole<HTMLInputElement>('checkbox', { name: 'Take North' });
  const south = screen.getByRole<HTMLInputElement>('checkbox', { name: 'Take South' });
  expect([north.checked, south.checked, south.indeterminate]).toEqual([true, false, true]);
  expect(screen.getByText('4 of 9')).toBeTruthy();
  await user.click(north);
  await user.click(south);
  await user.click(screen.getByRole('checkbox', { name: 'Take the whole account' }));
  await waitFor(() =>
    expect(sent()).toEqual([
      { campaign: 'North', taken: false },
      { campaign: 'South', taken: true },
      { campaign: '', taken: true },
    ]),
  );
});

test('among many those that are found are taken or left', async () => {
  const { user, sent } = open(
    Array.from({ length: 20 }, (_, at) => ({ campaign: `Campaign ${at + 1}`, rows: 3, taken: 3 })),
  );
  await user.type(await screen.findByLabelText('Find campaigns'), '2');
  await user.click(screen.getByRole('button', { name: 'Leave these' }));
  await waitFor(() =>
    expect(sent().map((body) => (body as { campaign: string }).campaign)).toEqual([
      'Campaign 2',
      'Campaign 12',
      'Campaign 20',
    ]),
  );
});

test('all of them are taken or left at once, without asking for each', async () => {
  const { user, sent } = open([
    { campaign: 'North', rows: 3, taken: 3 },
    { campaign: '', rows: 2, taken: 0 },
  ]);
  await user.click(await screen.findByRole('button', { name: 'Leave all' }));
  await waitFor(() => expect(sent()).toEqual([{ taken: false }]));
});

test('columns that the outlet’s profile has not are named by their sheets', () => {
  const files = [
    {
      upload: '6f0a7a4e-6a3b-4a52-9b57-0f6f5d1f9a02',
      name: 'keywords.csv',
      rows: 3,
      columns: [
        { heading: 'Keyword', value: 'keyword' as const },
        { heading: 'Score', value: null },
      ],
    },
  ];
  shownAt('/', <UnknownColumns readBack={readBack({ files })} />);
  const section = screen.getByRole('region', { name: 'Columns that are not read' });
  expect(section.textContent).toContain('1 column not read');
  expect(section.textContent).toContain('keywords.csv: Score');
});

import { addRivalNote, listRivalNotes, readLanding, removeRivalNote } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { type FormLimits, patternOf } from '@sprig/core/write';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { heard, servedBy, shownAt } from '../../testing/rendered.tsx';
import { Beside } from './Beside.tsx';

const body = patternOf({ headline1: ['Brushes'] }, 'title');
const note = (more: object) => ({
  id: 1,
  theme: null,
  group: null,
  rival: 'Bristle & Comb',
  text: 'Combs by Bristle and Comb | From £2',
  ...more,
});

function open(from = '/?beside=rivals', notes: object[] = [note({})], rivals: string[] = []) {
  const edits: [string, unknown][] = [];
  const asked = servedBy([
    [listRivalNotes, () => ({ notes })],
    [addRivalNote, () => ({ revision: 2, id: 9 })],
    [removeRivalNote, () => ({ revision: 2 })],
    [
      readLanding,
      ({ query }) => ({
        address: query.get('address'),
        status: 200,
        title: 'Our shop',
        parts: [{ kind: 'heading', text: `Page of ${query.get('address')}` }],
        problem: '',
      }),
    ],
  ]);
  const document = {
    edit: async (at: string, value: unknown) => {
      edits.push([at, value]);
      return null;
    },
  };
  const shown = shownAt(
    from,
    <Beside
      plan={7}
      pattern={{ id: 3, body, form: plainOutlet.ad.plain as FormLimits, document: document as never }}
      group={{ key: 'k1', name: 'Combs', keyword: 'wooden comb', theme: 5 }}
      themes={[
        { id: 5, name: 'Hair › Combs' },
        { id: 4, name: 'Hair' },
      ]}
      rivals={rivals}
      address="https://ours.example/combs"
    >
      <p>What is said of the ad.</p>
    </Beside>,
  );
  return { ...shown, asked, edits };
}
const view = (name: string) => screen.getByRole('button', { name });

describe('beside the lines', () => {
  test('the ad, a page, rivals: one at a time, and the address keeps which', async () => {
    const { user, address } = open('/');
    expect(screen.getByText('What is said of the ad.')).toBeTruthy();
    await user.click(view('Page'));
    expect(screen.queryByText('What is said of the ad.')).toBeNull();
    expect(address()).toBe('/?beside=page');
    await screen.findByText('Page of https://ours.example/combs');
  });

  test('another page of the site, and back to where the ad leads', async () => {
    const { user } = open('/?beside=page');
    const field = await screen.findByRole('textbox', { name: 'Address of the page' });
    await user.clear(field);
    await user.type(field, 'ours.example/about{Enter}');
    await screen.findByText('Page of https://ours.example/about');
    await user.click(screen.getByRole('button', { name: 'The ad’s' }));
    await screen.findByText('Page of https://ours.example/combs');
  });

  test('lines of a page and of a rival’s ad are put behind those of a field; the rival’s name is a gap', async () => {
    const { user, edits } = open();
    const ad = within(await screen.findByRole('region', { name: 'Ad of Bristle & Comb' }));
    expect(ad.getByTitle(/^Not to be used/).textContent).toBe('Bristle and Comb');
    await user.click(ad.getByRole('button', { name: 'Take over “Combs by Bristle and Comb”' }));
    await user.click(screen.getByRole('menuitem', { name: /^Headline 1/i }));
    await waitFor(() =>
      expect(edits).toEqual([
        ['patterns.3.fields.headline1.lines', ['Brushes', 'Combs by @gap(your own name)']],
      ]),
    );
  });

  test('notes of the group, of its themes and of the plan are shown, others are not', async () => {
    open('/?beside=rivals', [
      note({ id: 1, rival: 'Of the plan' }),
      note({ id: 2, rival: 'Of the branch', theme: 4 }),
      note({ id: 3, rival: 'Of another theme', theme: 8 }),
      note({ id: 4, rival: 'Of the group', group: 'k1' }),
      note({ id: 5, rival: 'Of another group', group: 'k2' }),
    ]);
    await screen.findByRole('region', { name: 'Ad of Of the plan' });
    expect(screen.getAllByRole('region').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Ad of Of the plan',
      'Ad of Of the branch',
      'Ad of Of the group',
    ]);
  });

  test.each([
    [[], true],
    [['Bristle and Comb'], false],
  ])('a new one, whose name is not to be used from then on (%o: %s)', async (rivals, ban) => {
    heard();
    const { user, asked } = open('/?beside=rivals', [], rivals as string[]);
    await user.click(await screen.findByRole('button', { name: 'Note an ad' }));
    const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
    expect(keep().disabled).toBe(true);
    fireEvent.change(screen.getByRole('textbox', { name: 'Whose ad it is' }), {
      target: { value: 'Bristle & Comb' },
    });
    fireEvent.change(screen.getByRole('textbox', { name: 'Lines of the ad' }), {
      target: { value: 'Combs\nFrom £2' },
    });
    await user.selectOptions(screen.getByRole('combobox', { name: 'Beside what it stands' }), 'Hair');
    await user.click(keep());
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
        note: { theme: 4, group: null, rival: 'Bristle & Comb', text: 'Combs\nFrom £2' },
        ban,
      }),
    );
  });
});

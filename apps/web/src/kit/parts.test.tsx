import { noRewriting, type Rewriting } from '@sprig/core/gather';
import { matchTypes } from '@sprig/core/match';
import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { Dialog } from './Dialog.tsx';
import { matchWords } from './match-words.ts';
import { AskedMarks, ReachBars } from './ReachBars.tsx';
import { RewriteSentence } from './RewriteSentence.tsx';
import { ViewButtons } from './ViewButtons.tsx';
import { Yield } from './Yield.tsx';

describe('reach bars', () => {
  test.each(matchTypes.map((type, at) => [type, matchTypes.length - at] as const))(
    '%s has %i bars, and its name',
    (type, bars) => {
      const { container } = shown(<ReachBars type={type} />);
      expect(screen.getByRole('img', { name: matchWords[type] })).toBeTruthy();
      expect(container.querySelectorAll('rect')).toHaveLength(bars);
    },
  );

  test('of what a keyword was asked in, in the order of match types', () => {
    shown(<AskedMarks asked={0b1001} />);
    expect(screen.getAllByRole('img').map((mark) => mark.getAttribute('aria-label'))).toEqual([
      matchWords.broad,
      matchWords.exact,
    ]);
  });

  test('asked in none is any', () => {
    shown(<AskedMarks asked={0} />);
    expect(screen.getByText('any')).toBeTruthy();
  });
});

describe('the yield', () => {
  const terms = [
    { id: 'made', figure: '48', words: 'made', more: <p>12 of them twice</p> },
    { id: 'new', figure: '31', words: 'new', more: <p>of no other source</p> },
    { id: 'cost', figure: '£14', words: 'a day', tone: 'bad' as const },
  ];

  test('a term opens upwards to what is in it, one at a time, and closes again', async () => {
    const { user } = shown(<Yield terms={terms} note="about" />);
    const made = screen.getByRole('button', { name: '48 made' });
    const fresh = screen.getByRole('button', { name: '31 new' });
    expect(made.getAttribute('aria-expanded')).toBe('false');
    await user.click(made);
    expect(screen.getByText('12 of them twice')).toBeTruthy();
    await user.click(fresh);
    expect(screen.queryByText('12 of them twice')).toBeNull();
    expect(screen.getByText('of no other source')).toBeTruthy();
    expect(fresh.getAttribute('aria-expanded')).toBe('true');
    await user.click(fresh);
    expect(screen.queryByText('of no other source')).toBeNull();
  });

  test('a term with nothing in it does not open', () => {
    shown(<Yield terms={terms} />);
    const cost = screen.getByRole('button', { name: '£14 a day' });
    expect(cost.hasAttribute('disabled')).toBe(true);
    expect(cost.hasAttribute('aria-expanded')).toBe(false);
    expect(within(cost).getByText('£14').className).toContain('text-error');
  });
});

function Opened({ onClose }: { onClose: () => void }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        Open
      </button>
      {isOpen && (
        <Dialog
          title="Panel"
          onClose={() => {
            setOpen(false);
            onClose();
          }}
        >
          <p>Within</p>
        </Dialog>
      )}
    </>
  );
}

describe('a panel over the bench', () => {
  test('has its name, closes by its button and beside it, and gives the focus back', async () => {
    const closed = vi.fn();
    const { user } = shown(<Opened onClose={closed} />);
    const button = screen.getByRole('button', { name: 'Open' });
    await user.click(button);
    const panel = screen.getByRole('dialog', { name: 'Panel' });
    await user.click(screen.getByText('Within'));
    expect(closed).not.toHaveBeenCalled();
    await user.click(screen.getByRole('button', { name: 'Close' }));
    expect(closed).toHaveBeenCalledTimes(1);
    expect(document.activeElement).toBe(button);
    await user.click(button);
    await user.click(screen.getByRole('dialog', { name: 'Panel' }));
    expect(closed).toHaveBeenCalledTimes(2);
    expect(panel.isConnected).toBe(false);
  });
});

test('views of a stage: which is open, how much is in each, and what opens it', async () => {
  const viewed = vi.fn();
  const views = [
    ['', 'Lines', 'l'],
    ['ads', 'All ads', 'a'],
  ] as const;
  const { user } = shown(<ViewButtons views={views} current="" figures={{ ads: '614' }} onView={viewed} />);
  const [lines, ads] = screen.getAllByRole('button');
  expect([lines?.getAttribute('aria-pressed'), ads?.getAttribute('aria-pressed')]).toEqual(['true', 'false']);
  expect(ads?.getAttribute('title')).toBe('All ads (a)');
  expect(ads?.textContent).toBe('All ads614');
  await user.click(ads as HTMLElement);
  expect(viewed).toHaveBeenCalledWith('ads');
});

let now: Rewriting = noRewriting;
function Rewrite() {
  const [rewriting, set] = useState<Rewriting>(noRewriting);
  now = rewriting;
  return <RewriteSentence rewriting={rewriting} onChange={set} />;
}

test('how many texts are changed at once is a sentence whose every part counts', async () => {
  const { user } = shown(<Rewrite />);
  await user.type(screen.getByRole('textbox', { name: 'Find' }), 'pot');
  await user.type(screen.getByRole('textbox', { name: 'Replace by' }), 'kettle');
  await user.click(screen.getByRole('checkbox', { name: 'a regular expression' }));
  await user.type(screen.getByRole('textbox', { name: 'Put before' }), 'a ');
  await user.type(screen.getByRole('textbox', { name: 'Put behind' }), ' now');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Case' }), 'in Title Case');
  expect(now).toEqual({
    find: 'pot',
    replace: 'kettle',
    isPattern: true,
    prefix: 'a ',
    suffix: ' now',
    style: 'title',
  });
});

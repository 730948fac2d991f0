import { screen } from '@testing-library/react';
import { useRef } from 'react';
import { expect, test } from 'vitest';
import { heard, shownAt } from '../testing/rendered.tsx';
import { EditedElsewhere } from './EditedElsewhere.tsx';
import { aboutHere, useFieldInHand, useToldTogether } from './field-in-hand.ts';
import type { Somebody } from './presence.ts';

const tobin = (field: string, place = 'build'): Somebody => ({ actor: 2, name: 'Tobin', place, field });
const mark = (others: Somebody[], from = '/?at=k7') =>
  shownAt(from, <EditedElsewhere others={others} place="build" />).container.querySelector('style')
    ?.textContent ?? '';

test('a field that somebody writes in is marked, whatever stands in its name', () => {
  const { container } = shownAt(
    '/?at=k7',
    <main>
      <EditedElsewhere others={[tobin('Daily “budget” of "A" \\\\ {x}\nat=k7')]} place="build" />
      <input aria-label={'Daily “budget” of "A" \\\\ {x}'} />
      <button type="button" aria-label={'Edit Daily “budget” of "A" \\\\ {x}'} />
      <input aria-label="another" />
    </main>,
  );
  const rule = container.querySelector('style')?.sheet?.cssRules[0] as CSSStyleRule | undefined;
  const marked = [...container.querySelectorAll(rule?.selectorText ?? 'nothing')];
  expect(marked.map((one) => one.tagName)).toEqual(['INPUT', 'BUTTON']);
});

test('one of another stage, or of another thing on the same screen, is not', () => {
  expect(mark([tobin('name\nat=k8')])).toBe('');
  expect(mark([tobin('name\nat=k7', 'sort')])).toBe('');
  expect(mark([tobin('')])).toBe('');
  expect(mark([tobin('name\nat=k7')])).toContain('outline');
  expect(aboutHere('?filter=x&at=k7&sort=name')).toBe('at=k7');
});

function Page({ others }: { others: Somebody[] }) {
  const page = useRef<HTMLElement>(null);
  const field = useFieldInHand(page);
  useToldTogether(others, 'build', field);
  return (
    <main ref={page}>
      <output>{field}</output>
      <input aria-label="name of Kayaks" />
      <input aria-label="Filter" data-filter />
      <input aria-label="is out" type="checkbox" />
    </main>
  );
}

test('what one writes in is known by its name, but not filters and boxes; two in one field are told', async () => {
  const said = heard();
  const others = [tobin('name of Kayaks\n')];
  const { user } = shownAt('/', <Page others={others} />);
  const field = () => screen.getByRole('status').textContent;
  await user.click(screen.getByLabelText('Filter'));
  expect(field()).toBe('');
  await user.click(screen.getByLabelText('is out'));
  expect(field()).toBe('');
  await user.click(screen.getByLabelText('name of Kayaks'));
  await expect.poll(field).toBe('name of Kayaks\n');
  expect(said().map(({ words }) => words)).toEqual([
    'Tobin is writing here too. Whoever is second is asked first.',
  ]);
});

import { screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { asTold, type Commands, offered, type Run, useCommands, viewCommands, viewRuns } from './commands.ts';

const did = vi.fn();
beforeEach(() => did.mockClear());

const outer = {
  third: { keys: 'g 3', words: 'Go to the third', byKey: true },
  find: { keys: '$mod+k', words: 'Find', always: true },
} satisfies Commands;
const inner = {
  rules: { keys: 'r', words: 'Rules' },
  cure: { keys: ['1', '2', '3'], told: '1 2 3', words: 'Cure', byKey: true },
  pass: { keys: 'p', words: 'Pass on' },
  gone: { keys: 'x', words: 'Not now' },
} satisfies Commands;

function Inner({ rules = 'rules' }: { rules?: string }) {
  useCommands(inner, {
    rules: () => did(rules),
    cure: (event) => did(`cure ${event?.key}`),
    pass: () => false,
  });
  return <input aria-label="Field" />;
}
function Shown({ children }: { children?: React.ReactNode }) {
  useCommands(outer, { third: () => did('third'), find: () => did('find') });
  return children;
}
const open = () =>
  shown(
    <Shown>
      <Inner />
    </Shown>,
  );
const done = () => did.mock.calls.map(([what]) => what);

describe('commands by their keys', () => {
  test('do what they say, with the newest that they have to do', async () => {
    const { user, rerender } = open();
    await user.keyboard('r');
    rerender(
      <Shown>
        <Inner rules="later" />
      </Shown>,
    );
    await user.keyboard('r');
    expect(done()).toEqual(['rules', 'later']);
  });

  test('a number after g belongs to g alone', async () => {
    const { user } = open();
    await user.keyboard('3g31');
    expect(done()).toEqual(['cure 3', 'third', 'cure 1']);
  });

  test('in a field nothing works but what always does; there a g begins nothing', async () => {
    const { user } = open();
    await user.click(screen.getByRole('textbox'));
    await user.keyboard('rg3{Control>}k{/Control}');
    expect(done()).toEqual(['find']);
    (document.activeElement as HTMLElement).blur();
    await user.keyboard('2');
    expect(done()).toEqual(['find', 'cure 2']);
  });

  test('with another modifier they do nothing', async () => {
    const { user } = open();
    await user.keyboard('{Control>}r{/Control}{Alt>}r{/Alt}');
    expect(done()).toEqual([]);
  });

  test('under an open dialog they rest', async () => {
    const { user } = open();
    const dialog = document.createElement('dialog');
    dialog.open = true;
    document.body.append(dialog);
    await user.keyboard('r');
    dialog.remove();
    await user.keyboard('r');
    expect(done()).toEqual(['rules']);
  });

  test('what was done goes no further; what was not for the command does', async () => {
    const { user } = open();
    const seen: [string, boolean][] = [];
    const listen = (event: KeyboardEvent) => seen.push([event.key, event.defaultPrevented]);
    // After the commands' own listeners.
    window.addEventListener('keydown', listen);
    await user.keyboard('rp');
    window.removeEventListener('keydown', listen);
    expect(seen).toEqual([
      ['r', true],
      ['p', false],
    ]);
  });
});

describe('commands by name', () => {
  test('are what is on the screen, outermost first, but not what makes sense by its key alone or can’t be done now', () => {
    const { unmount } = open();
    const words = () => offered().map((one) => [one.words, one.keys]);
    expect(new Set(words().map(String))).toEqual(new Set(['Find,Ctrl K', 'Rules,r', 'Pass on,p']));
    offered()
      .find((one) => one.words === 'Rules')
      ?.run();
    expect(done()).toEqual(['rules']);
    unmount();
    expect(words()).toEqual([]);
  });

  test('are told as keys are', () => {
    expect(asTold(inner)).toContainEqual(['1 2 3', 'cure']);
    expect(asTold(outer)).toEqual([
      ['g then 3', 'go to the third'],
      ['Ctrl K', 'find'],
    ]);
    expect(asTold({ redo: { keys: '$mod+Shift+z', words: 'Redo' } })).toEqual([['Ctrl Shift Z', 'redo']]);
  });

  test('each view of a stage has one', () => {
    const views = [
      ['', 'Picture', 'i'],
      ['rules', 'Rules', 'r'],
    ] as const;
    expect(asTold(viewCommands(views))).toEqual([
      ['i', 'picture'],
      ['r', 'rules'],
    ]);
    const runs: Record<string, Run> = viewRuns(views, did);
    runs['view rules']?.();
    expect(done()).toEqual(['rules']);
  });
});

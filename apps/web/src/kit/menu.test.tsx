import { screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { Menu } from './Menu.tsx';

const [first, second, third] = [vi.fn(), vi.fn(), vi.fn()];
const pressed = vi.fn();
const open = () =>
  shown(
    // biome-ignore lint/a11y/noStaticElementInteractions: what the keys around a menu would do
    <div onKeyDown={pressed}>
      <Menu
        label="Of the list"
        className="btn"
        items={[
          { words: 'Rename', hint: 'r', run: first },
          { words: 'Merge', disabled: true, run: second },
          { words: 'Remove', run: third },
        ]}
      >
        …
      </Menu>
      <button type="button">Elsewhere</button>
    </div>,
  );
const button = () => screen.getByRole('button', { name: 'Of the list' });
const item = (name: string) => screen.getByRole('menuitem', { name: new RegExp(name) });
const isOpen = () => screen.queryByRole('menu') !== null;

beforeEach(() => {
  for (const told of [first, second, third, pressed]) told.mockClear();
});

describe('a menu', () => {
  test('is closed at first, and says so', () => {
    open();
    expect(button().getAttribute('aria-haspopup')).toBe('menu');
    expect(button().getAttribute('aria-expanded')).toBe('false');
    expect(isOpen()).toBe(false);
  });

  test('opens with its first thing in focus', async () => {
    const { user } = open();
    await user.click(button());
    expect(button().getAttribute('aria-expanded')).toBe('true');
    expect(screen.getByRole('menu', { name: 'Of the list' })).toBeTruthy();
    expect(document.activeElement).toBe(item('Rename'));
  });

  test('arrows go round, past what can’t be done now', async () => {
    const { user } = open();
    await user.click(button());
    await user.keyboard('{ArrowDown}');
    expect(document.activeElement).toBe(item('Remove'));
    await user.keyboard('{ArrowDown}');
    expect(document.activeElement).toBe(item('Rename'));
    await user.keyboard('{ArrowUp}');
    expect(document.activeElement).toBe(item('Remove'));
  });

  test('Home and End go to its ends, a letter from one that begins with it to the next', async () => {
    const { user } = open();
    await user.click(button());
    await user.keyboard('{End}');
    expect(document.activeElement).toBe(item('Remove'));
    await user.keyboard('{Home}');
    expect(document.activeElement).toBe(item('Rename'));
    await user.keyboard('r');
    expect(document.activeElement).toBe(item('Remove'));
    await user.keyboard('R');
    expect(document.activeElement).toBe(item('Rename'));
    // What can't be done now is passed, and so is what nothing begins with.
    await user.keyboard('mx');
    expect(document.activeElement).toBe(item('Rename'));
  });

  test('Tab goes on, and leaves it closed behind', async () => {
    const { user } = open();
    await user.click(button());
    await user.tab();
    expect(isOpen()).toBe(false);
    expect(first).not.toHaveBeenCalled();
  });

  test('Escape closes it, gives the focus back, and does nothing else', async () => {
    const { user } = open();
    await user.click(button());
    await user.keyboard('{Escape}');
    expect(isOpen()).toBe(false);
    expect(document.activeElement).toBe(button());
    expect(first).not.toHaveBeenCalled();
  });

  test('keys pressed in it are not for what is around it', async () => {
    const { user } = open();
    await user.click(button());
    pressed.mockClear();
    await user.keyboard('{ArrowDown}x{Escape}');
    expect(pressed).not.toHaveBeenCalled();
    await user.keyboard('x');
    expect(pressed).toHaveBeenCalledTimes(1);
  });

  test('Enter does the thing in focus, closes it, and gives the focus back', async () => {
    const { user } = open();
    await user.click(button());
    await user.keyboard('{ArrowDown}{Enter}');
    expect(third).toHaveBeenCalledTimes(1);
    expect(first).not.toHaveBeenCalled();
    expect(isOpen()).toBe(false);
    expect(document.activeElement).toBe(button());
  });

  test('what can’t be done now can’t be clicked', async () => {
    const { user } = open();
    await user.click(button());
    await user.click(item('Merge'));
    expect(second).not.toHaveBeenCalled();
    expect(isOpen()).toBe(true);
  });

  test('a press elsewhere closes it, one on its button too', async () => {
    const { user } = open();
    await user.click(button());
    await user.click(screen.getByRole('button', { name: 'Elsewhere' }));
    expect(isOpen()).toBe(false);
    await user.click(button());
    await user.click(button());
    expect(isOpen()).toBe(false);
  });
});

import type { RecipeRow } from '@sprig/contracts';
import { emptyRecipe } from '@sprig/core/mix';
import { screen } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { shown } from '../../testing/rendered.tsx';
import { NoRecipe } from './NoRecipe.tsx';
import { RecipesRibbon } from './RecipesRibbon.tsx';

const row: RecipeRow = {
  id: 4,
  recipe: emptyRecipe('Goods'),
  source: null,
  keywords: 0,
  held: 0,
  cuts: 0,
};

function open(usual: string | null) {
  const [onMake, onBegin, nothing] = [vi.fn(), vi.fn(), vi.fn()];
  const view = shown(
    <RecipesRibbon
      recipes={[row]}
      chosen={4}
      madeNow={12}
      usual={usual}
      onMake={onMake}
      onBegin={onBegin}
      onChoose={nothing}
      onCopy={nothing}
      onSwitch={nothing}
      onRename={async () => null}
      onRemove={nothing}
      onOrder={nothing}
      onShared={nothing}
    >
      {null}
    </RecipesRibbon>,
  );
  return { ...view, onMake, onBegin };
}
const items = () => screen.getAllByRole('menuitem').map(({ textContent }) => textContent);

describe('what new recipes begin like', () => {
  test('one is chosen by its menu, and let go by it', async () => {
    const { user, onBegin } = open('Goods and places');
    await user.click(screen.getByRole('button', { name: 'More for Goods' }));
    await user.click(screen.getByRole('menuitem', { name: 'Begin new recipes like this one' }));
    expect(onBegin).toHaveBeenLastCalledWith(row);
    await user.click(screen.getByRole('button', { name: 'More for Goods' }));
    await user.click(screen.getByRole('menuitem', { name: 'Begin no more like Goods and places' }));
    expect(onBegin).toHaveBeenLastCalledWith(null);
  });

  test('it stands first; another shape is for this once, and the usual one is there again', async () => {
    const { user, onMake } = open('Goods and places');
    for (const [name, made] of [
      [/^empty/, null],
      [/^As usual/, 'usual'],
    ] as const) {
      await user.click(screen.getByRole('button', { name: 'New recipe' }));
      expect(items()[0]).toBe('As usual: Goods and places');
      expect(
        items()
          .slice(1)
          .every((words) => words?.endsWith('this once')),
      ).toBe(true);
      await user.click(screen.getByRole('menuitem', { name }));
      expect(onMake).toHaveBeenLastCalledWith(made);
    }
  });

  test('without one nothing is said of it', async () => {
    const { user } = open(null);
    await user.click(screen.getByRole('button', { name: 'New recipe' }));
    expect(items().join()).not.toMatch(/usual|once/);
  });

  test('where there is no recipe yet it is offered first', async () => {
    const onMake = vi.fn();
    const { user } = shown(<NoRecipe usual="Goods and places" onMake={onMake} />);
    await user.click(screen.getByRole('button', { name: 'As usual: Goods and places' }));
    expect(onMake).toHaveBeenCalledWith('usual');
  });
});

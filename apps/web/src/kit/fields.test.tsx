import { asMicros } from '@sprig/core/money';
import { act, screen } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { awaited, shown } from '../testing/rendered.tsx';
import { ChoiceChip, MoneyChip, PercentChip, TextChip } from './chips.tsx';
import { FilterField } from './FilterField.tsx';
import { InlineEdit } from './InlineEdit.tsx';
import { LinesChip } from './LinesChip.tsx';
import { Refused } from './Refused.tsx';
import { useEntry, useTypedOver } from './use-entry.ts';

const kept = vi.fn(async (_value: unknown): Promise<string | null> => null);
const left = vi.fn();
const around = vi.fn();
beforeEach(() => {
  for (const told of [kept, left, around]) told.mockReset();
  kept.mockResolvedValue(null);
});

/** A value that is kept by somebody: it changes when that is done. */
function Value({ slow }: { slow?: Promise<string | null> }) {
  const [value, setValue] = useState('green tea');
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what the keys around a field would do
    <div onKeyDown={around}>
      <InlineEdit
        label="name"
        shown={value}
        text={value}
        onLeave={left}
        onKeep={async (typed) => {
          const words = (await kept(typed)) ?? (await slow) ?? null;
          if (words === null) setValue(typed);
          return words;
        }}
      />
    </div>
  );
}
const edit = () => screen.getByRole('button', { name: 'Edit name' });
const field = () => screen.getByRole('textbox', { name: 'name' }) as HTMLInputElement;

describe('a value that is edited in its place', () => {
  test('opens with its text chosen, and keeps what is typed over it by Enter', async () => {
    const { user } = shown(<Value />);
    await user.click(edit());
    expect(field().value).toBe('green tea');
    expect(document.activeElement).toBe(field());
    await user.keyboard('black tea{Enter}');
    expect(kept.mock.calls).toEqual([['black tea']]);
    expect(edit().textContent).toBe('black tea');
  });

  test('is kept when it is left', async () => {
    const { user } = shown(<Value />);
    await user.click(edit());
    await user.keyboard('black tea');
    await user.click(document.body);
    expect(kept).toHaveBeenCalledWith('black tea');
  });

  test('Escape leaves it as it was', async () => {
    const { user } = shown(<Value />);
    await user.click(edit());
    await user.keyboard('black tea{Escape}');
    expect(kept).not.toHaveBeenCalled();
    expect(left).toHaveBeenCalledTimes(1);
    expect(edit().textContent).toBe('green tea');
  });

  test('unchanged, nothing is sent', async () => {
    const { user } = shown(<Value />);
    await user.click(edit());
    await user.keyboard('{Enter}');
    expect(kept).not.toHaveBeenCalled();
    expect(left).toHaveBeenCalledTimes(1);
  });

  test('what is typed in it is not for what is around it', async () => {
    const { user } = shown(<Value />);
    await user.click(edit());
    around.mockClear();
    await user.keyboard('jkx{Escape}');
    expect(around).not.toHaveBeenCalled();
  });

  test('while it is on its way it reads as typed; refused, it opens again with the words', async () => {
    const slow = awaited<string | null>();
    const { user } = shown(<Value slow={slow.promise} />);
    await user.click(edit());
    await user.keyboard('rum{Enter}');
    expect(edit().textContent).toBe('rum');
    await act(async () => slow.answer('There is one called that.'));
    expect(field().value).toBe('rum');
    expect(field().getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('alert').textContent).toBe('There is one called that.');
  });

  test('refused while it is typed into anew, it says what was not kept, and keeps what is typed', async () => {
    const slow = awaited<string | null>();
    const { user } = shown(<Value slow={slow.promise} />);
    await user.click(edit());
    await user.keyboard('rum{Enter}');
    await user.click(edit());
    await user.keyboard('cocoa');
    await act(async () => slow.answer('There is one called that.'));
    expect(field().value).toBe('cocoa');
    expect(screen.getByRole('alert').textContent).toBe('“rum” was not kept: There is one called that.');
  });
});

describe('chips of a sentence', () => {
  const read = (typed: string) =>
    typed.trim() === '' ? { words: 'It needs a name.' } : { value: typed.trim().toUpperCase() };

  test('a text is read before it is kept, and drafted while it is typed', async () => {
    const drafted = vi.fn();
    const { user } = shown(
      <TextChip label="Name" value="tea" read={read} onDraft={drafted} onUndraft={left} onKeep={kept} />,
    );
    await user.click(screen.getByRole('button', { name: 'Name: tea' }));
    await user.keyboard('po');
    expect(drafted.mock.calls).toEqual([['P'], ['PO']]);
    await user.keyboard('t{Enter}');
    expect(kept).toHaveBeenCalledWith('POT');
    expect(left).toHaveBeenCalledTimes(1);
  });

  test('what can’t be read says why while it is typed, and is not sent', async () => {
    const { user } = shown(<TextChip label="Name" value="tea" read={read} onKeep={kept} />);
    await user.click(screen.getByRole('button', { name: 'Name: tea' }));
    await user.clear(screen.getByRole('textbox', { name: 'Name' }));
    expect(screen.getByRole('alert').textContent).toBe('It needs a name.');
    await user.keyboard('{Enter}');
    expect(kept).not.toHaveBeenCalled();
    expect(screen.getByRole('textbox', { name: 'Name' }).getAttribute('aria-invalid')).toBe('true');
    await user.keyboard('pot');
    expect(screen.queryByRole('alert')).toBeNull();
    await user.keyboard('{Enter}');
    expect(kept).toHaveBeenCalledWith('POT');
  });

  test('an amount by its currency', async () => {
    const { user } = shown(
      <MoneyChip label="Default bid" value={asMicros(400_000)} currency="GBP" onKeep={kept} />,
    );
    const chip = screen.getByRole('button', { name: 'Default bid: 0.40' });
    expect(chip.textContent).toBe('£0.40');
    await user.click(chip);
    await user.keyboard('1.5{Enter}');
    expect(kept).toHaveBeenCalledWith(1_500_000);
  });

  test('a share in basis points', async () => {
    const { user } = shown(<PercentChip label="Step" value={8_500} onKeep={kept} />);
    const chip = screen.getByRole('button', { name: 'Step: 85' });
    expect(chip.textContent).toBe('85%');
    await user.click(chip);
    await user.keyboard('112.5{Enter}');
    expect(kept).toHaveBeenCalledWith(11_250);
  });

  test('one of a few', async () => {
    const chosen = vi.fn();
    const choices = [
      { value: 'off', words: 'no fence' },
      { value: 'exact', words: 'exact fences' },
    ];
    const { user } = shown(<ChoiceChip label="Fences" value="off" choices={choices} onChoose={chosen} />);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Fences' }), 'exact fences');
    expect(chosen).toHaveBeenCalledWith('exact');
  });
});

describe('a list inside of a sentence', () => {
  const lines = () =>
    shown(
      <>
        <LinesChip
          label="Places"
          shown="1 place"
          text="Wrenport"
          placeholder="A town"
          help="A place to a line."
          read={(typed) =>
            typed.includes('?')
              ? { words: 'Which one?', offers: [{ words: 'a town', typed: 'Heronsea (town)' }] }
              : { value: typed.split('\n').filter(Boolean) }
          }
          onKeep={kept}
        />
        <button type="button">Elsewhere</button>
      </>,
    );
  const chip = () => screen.getByRole('button', { name: 'Places: 1 place' });
  const area = () => screen.getByRole('textbox', { name: 'Places' }) as HTMLTextAreaElement;

  test('opens with its lines and its help, and is kept by its button', async () => {
    const { user } = lines();
    await user.click(chip());
    expect(area().value).toBe('Wrenport');
    expect(screen.getByText('A place to a line.')).toBeTruthy();
    await user.type(area(), '{Enter}Heronsea');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(kept).toHaveBeenCalledWith(['Wrenport', 'Heronsea']);
    expect(document.activeElement).toBe(chip());
  });

  test('is kept by Ctrl Enter, by a press elsewhere, and by its chip', async () => {
    const { user } = lines();
    for (const [at, leave] of [
      () => user.keyboard('{Control>}{Enter}{/Control}'),
      () => user.click(screen.getByRole('button', { name: 'Elsewhere' })),
      () => user.click(chip()),
    ].entries()) {
      await user.click(chip());
      await user.type(area(), `{Enter}Town ${at}`);
      await leave();
      expect(kept).toHaveBeenLastCalledWith(['Wrenport', `Town ${at}`]);
      expect(screen.queryByRole('textbox')).toBeNull();
    }
  });

  test('Escape leaves it as it was, with the focus on its chip', async () => {
    const { user } = lines();
    await user.click(chip());
    await user.type(area(), 'x');
    await user.keyboard('{Escape}');
    expect(kept).not.toHaveBeenCalled();
    expect(document.activeElement).toBe(chip());
  });

  test('what can’t be read stays open, with what could be meant to be chosen', async () => {
    const { user } = lines();
    await user.click(chip());
    await user.type(area(), '?');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(kept).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toBe('Which one?');
    await user.click(screen.getByRole('button', { name: 'a town' }));
    expect(area().value).toBe('Heronsea (town)');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(kept).toHaveBeenCalledWith(['Heronsea (town)']);
  });
});

function Filter() {
  const [value, setValue] = useState('tea');
  return (
    <>
      <FilterField
        label="Filter"
        placeholder="Words"
        value={value}
        onChange={(next) => {
          kept(next);
          // The address follows a moment later.
          setTimeout(() => setValue(next), 50);
        }}
      />
      <button type="button" onClick={() => setValue('from elsewhere')}>
        Elsewhere
      </button>
    </>
  );
}

describe('the filter of a table', () => {
  const input = () => screen.getByRole('searchbox', { name: 'Filter' }) as HTMLInputElement;

  test('keeps every key, though its value follows late', async () => {
    const { user } = shown(<Filter />);
    await user.click(input());
    await user.keyboard('pots and cups');
    expect(input().value).toBe('teapots and cups');
    expect(kept).toHaveBeenLastCalledWith('teapots and cups');
  });

  test('Escape empties it, and once more leaves it', async () => {
    const { user } = shown(<Filter />);
    await user.click(input());
    await user.keyboard('{Escape}');
    expect(input().value).toBe('');
    expect(kept).toHaveBeenLastCalledWith('');
    expect(document.activeElement).toBe(input());
    await user.keyboard('{Escape}');
    expect(document.activeElement).not.toBe(input());
  });

  test('takes what comes from elsewhere when nobody types in it', async () => {
    const { user } = shown(<Filter />);
    await user.click(screen.getByRole('button', { name: 'Elsewhere' }));
    expect(input().value).toBe('from elsewhere');
  });
});

const answers: ReturnType<typeof awaited<boolean>>[] = [];
function Entry() {
  const entry = useEntry((text) => {
    kept(text);
    const answer = awaited<boolean>();
    answers.push(answer);
    return answer.promise;
  });
  return (
    <>
      <input
        aria-label="Word"
        value={entry.typed}
        onChange={({ target }) => entry.type(target.value)}
        onKeyDown={({ key }) => {
          if (key === 'Enter') void entry.send(entry.typed);
        }}
      />
      <Refused entry={entry} />
    </>
  );
}

describe('a field that adds', () => {
  const word = () => screen.getByRole('textbox', { name: 'Word' }) as HTMLInputElement;
  beforeEach(() => {
    answers.length = 0;
  });

  test('is empty for the next as soon as one is on its way', async () => {
    const { user } = shown(<Entry />);
    await user.type(word(), 'cast iron{Enter}travel{Enter}glass');
    expect(kept.mock.calls).toEqual([['cast iron'], ['travel']]);
    expect(word().value).toBe('glass');
    await act(async () => {
      for (const { answer } of answers) answer(true);
    });
    expect(word().value).toBe('glass');
  });

  test('refused, the word comes back where nothing else is typed', async () => {
    const { user } = shown(<Entry />);
    await user.type(word(), 'cast iron{Enter}');
    await act(async () => answers[0]?.answer(false));
    expect(word().value).toBe('cast iron');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('refused while the next is typed, it waits beside the field, and changes places with what is there', async () => {
    const { user } = shown(<Entry />);
    await user.type(word(), 'cast iron{Enter}tra');
    await act(async () => answers[0]?.refuse(new Error('gone')));
    expect(word().value).toBe('tra');
    expect(screen.getByRole('alert').textContent).toContain('“cast iron” was not added.');
    await user.click(screen.getByRole('button', { name: 'Put it back' }));
    expect(word().value).toBe('cast iron');
    expect(screen.getByRole('alert').textContent).toContain('“tra” was not added.');
  });
});

function Over({ value }: { value: string }) {
  const [typed, type] = useTypedOver(value);
  return <input aria-label="Line" value={typed} onChange={({ target }) => type(target.value)} />;
}

describe('what is typed over a value', () => {
  const line = () => screen.getByRole('textbox', { name: 'Line' }) as HTMLInputElement;

  test('follows the value until something else is typed', async () => {
    const { user, rerender } = shown(<Over value="green" />);
    rerender(<Over value="black" />);
    expect(line().value).toBe('black');
    await user.type(line(), ' tea');
    rerender(<Over value="white" />);
    expect(line().value).toBe('black tea');
  });

  test('follows again once the value is what was typed', async () => {
    const { user, rerender } = shown(<Over value="green" />);
    await user.type(line(), ' tea');
    rerender(<Over value="green tea" />);
    rerender(<Over value="white tea" />);
    expect(line().value).toBe('white tea');
  });
});

describe('a value that somebody else changes while its field is open', () => {
  function open(follows = false) {
    const field = (text: string) => (
      <InlineEdit
        label="name"
        shown={text}
        text={text}
        onKeep={kept}
        {...(follows ? { onType: () => {} } : {})}
      />
    );
    const { user, rerender } = shown(field('green tea'));
    return { user, to: (text: string) => rerender(field(text)) };
  }

  test('is told before it is written over; Enter again writes', async () => {
    const { user, to } = open();
    await user.click(screen.getByRole('button', { name: 'Edit name' }));
    await user.keyboard('white tea');
    to('black tea');
    await user.keyboard('{Enter}');
    expect(screen.getByRole('alert').textContent).toContain('is “black tea” now');
    expect(kept).not.toHaveBeenCalled();
    expect((screen.getByLabelText('name') as HTMLInputElement).value).toBe('white tea');
    await user.keyboard('{Enter}');
    expect(kept.mock.calls).toEqual([['white tea']]);
  });

  test('is not asked where they have put the same there, or nothing was typed', async () => {
    const { user, to } = open();
    await user.click(screen.getByRole('button', { name: 'Edit name' }));
    to('black tea');
    await user.keyboard('{Enter}');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(kept).not.toHaveBeenCalled();
    await user.click(screen.getByRole('button', { name: 'Edit name' }));
    await user.keyboard('red tea');
    to('red tea');
    await user.keyboard('{Enter}');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('is left as it is by Esc', async () => {
    const { user, to } = open();
    await user.click(screen.getByRole('button', { name: 'Edit name' }));
    await user.keyboard('white tea');
    to('black tea');
    await user.keyboard('{Enter}{Escape}');
    expect(screen.getByRole('button', { name: 'Edit name' }).textContent).toBe('black tea');
    expect(kept).not.toHaveBeenCalled();
  });
});

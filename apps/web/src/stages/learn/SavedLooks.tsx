import { keepLook, listLooks, removeLook, type ShownLook } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Bookmark } from 'lucide-react';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Menu } from '../../kit/Menu.tsx';
import { addressOfLook } from './look-address.ts';

type Props = { plan: number; look: ShownLook; onLook: (look: ShownLook) => void };

const isSame = (a: ShownLook, b: ShownLook): boolean =>
  JSON.stringify(addressOfLook(a)) === JSON.stringify(addressOfLook(b));

/** Looks that are kept by name: opened, kept, taken away. */
export function SavedLooks({ plan, look, onLook }: Props) {
  const { data } = useQuery(question(listLooks, { params: { plan } }));
  const { write: keep, isBusy } = useWrite(keepLook, {
    said: (_, { body }) => `Kept as ${body?.name ?? ''}`,
  });
  const { write: remove } = useWrite(removeLook);
  const [name, setName] = useState<string | null>(null);
  const looks = data?.looks ?? [];
  const now = looks.find((one) => isSame(one.look, look));
  const done = async () => {
    const typed = name?.trim() ?? '';
    if (typed === '') return setName(null);
    if (await keep({ params: { plan }, body: { name: typed, look } })) setName(null);
  };
  if (name !== null)
    return (
      <span className="inline-flex items-center gap-1">
        <input
          // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
          autoFocus
          className="input input-sm w-52"
          aria-label="Keep this look as"
          placeholder="What to call it"
          maxLength={100}
          disabled={isBusy}
          value={name}
          onChange={({ target }) => setName(target.value)}
          onKeyDown={({ key }) => {
            if (key === 'Enter') void done();
            if (key === 'Escape') setName(null);
          }}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={isBusy || name.trim() === ''}
          onClick={() => void done()}
        >
          Keep
        </button>
      </span>
    );
  return (
    <Menu
      label="Kept looks"
      className="btn btn-ghost btn-sm font-normal"
      items={[
        ...looks.map((one) => ({
          words: one.name,
          hint: now?.id === one.id ? 'this one' : '',
          run: () => onLook(one.look),
        })),
        { words: 'Keep this look …', run: () => setName(now?.name ?? '') },
        ...(now
          ? [
              {
                words: `Take away “${now.name}”`,
                run: () => void remove({ params: { plan, look: now.id } }),
              },
            ]
          : []),
      ]}
    >
      <Bookmark size={14} aria-hidden /> {now?.name ?? 'Looks'}
    </Menu>
  );
}

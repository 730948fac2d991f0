import { Copy } from 'lucide-react';
import { Menu } from '../../kit/Menu.tsx';
import type { BuildActions } from './use-build.ts';

/** Copies a campaign or an ad group, with or without its ads; a copy can be taken away again. */
export function CopyMenu({ of, name, actions }: { of: string; name: string; actions: BuildActions }) {
  const isCopy = of.startsWith('x');
  return (
    <Menu
      label={`Copy ${name}`}
      className="btn btn-ghost btn-square btn-xs"
      items={[
        { words: 'Copy with its ads', run: () => void actions.copy(of, `${name} copy`, true) },
        { words: 'Copy without its ads', run: () => void actions.copy(of, `${name} copy`, false) },
        ...(isCopy ? [{ words: 'Take this copy away', run: () => void actions.removeCopy(of) }] : []),
      ]}
    >
      <Copy size={13} />
    </Menu>
  );
}

import { X } from 'lucide-react';
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { Part } from './Part.tsx';

/** A panel over the bench: a native dialog, so that focus stays in it and Esc closes it. */
export function Dialog({
  title,
  onClose,
  children,
  wide,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const before = useRef<HTMLElement | null>(null);
  const [isOpen, setOpen] = useState(false);
  useLayoutEffect(() => {
    before.current = document.activeElement as HTMLElement | null;
    const open = dialog.current;
    if (open && !open.open) open.showModal();
    // Only now is what wants the focus made: nothing in a closed dialog can take it.
    setOpen(true);
  }, []);
  // A dialog that is taken away, not closed, gives the focus back to nobody; until it is away all else is out of reach.
  useEffect(() => () => before.current?.focus({ preventScroll: true }), []);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Esc closes a dialog by itself
    <dialog
      ref={dialog}
      aria-label={title}
      className={`m-auto mt-20 rounded-md border border-hair bg-base-100 p-0 text-base-content backdrop:bg-neutral/25 ${wide ? 'w-[760px]' : 'w-[520px]'}`}
      onClose={onClose}
      onClick={(event) => event.target === dialog.current && onClose()}
    >
      <div className="flex max-h-[76vh] flex-col">
        <header className="flex items-center justify-between border-hair border-b px-4 py-2.5">
          <h2 className="font-semibold text-[15px]">{title}</h2>
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            aria-label="Close"
            onClick={onClose}
          >
            <X size={15} />
          </button>
        </header>
        <div className="min-h-0 overflow-auto p-4">
          {isOpen && <Part name={`“${title}”`}>{children}</Part>}
        </div>
      </div>
    </dialog>
  );
}

import { useEffect } from 'react';
import { inTextField } from '../../kit/keys.ts';
import type { Taking } from './use-given-list.ts';

/** What is pasted or dropped anywhere on the screen; `onTake` must stay the same between renders. */
export function useBroughtIn(onTake: (taking: Taking[]) => void): void {
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (inTextField(event.target) || document.querySelector('dialog[open]')) return;
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (text.trim() === '') return;
      // The field that opens takes the focus at once, and would be pasted into once more.
      event.preventDefault();
      onTake([{ kind: 'paste', text }]);
    };
    const stop = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      const files = Array.from(event.dataTransfer?.files ?? []);
      if (files.length > 0) onTake(files.map((file) => ({ kind: 'file', file })));
    };
    window.addEventListener('paste', onPaste);
    window.addEventListener('dragover', stop);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('paste', onPaste);
      window.removeEventListener('dragover', stop);
      window.removeEventListener('drop', onDrop);
    };
  }, [onTake]);
}

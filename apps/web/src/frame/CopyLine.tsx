import { Copy } from 'lucide-react';
import { toast } from 'sonner';
import { wordsOf } from '../data/call.ts';
import { copyCells } from '../kit/clipboard.ts';

type Props = { label: string; text: string; said: string };

/** Something that is shown once, to be copied. */
export const CopyLine = ({ label, text, said }: Props) => (
  <p className="flex items-center gap-2">
    <input
      readOnly
      aria-label={label}
      className="input input-sm w-full"
      value={text}
      onFocus={({ target }) => target.select()}
    />
    <button
      type="button"
      className="btn btn-sm"
      onClick={() =>
        void copyCells([[text]], text).then(
          () => toast(said),
          (error: unknown) => toast.error(wordsOf(error)),
        )
      }
    >
      <Copy size={14} aria-hidden /> Copy
    </button>
  </p>
);

import type { Entry } from './use-entry.ts';

/** What was not added while the next was typed: nothing that was typed is lost. */
export function Refused({ entry }: { entry: Entry }) {
  return entry.refused.map((text, at) => (
    <span
      // biome-ignore lint/suspicious/noArrayIndexKey: the same text may be refused twice
      key={`${text} ${at}`}
      role="alert"
      className="inline-flex items-center gap-1 text-[12px] text-error"
    >
      <span className="max-w-48 truncate">“{text}” was not added.</span>
      <button type="button" className="underline" onClick={() => entry.putBack(text)}>
        Put it back
      </button>
    </span>
  ));
}

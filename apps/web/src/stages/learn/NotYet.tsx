import { wordsOf } from '../../data/call.ts';

/** What stands in the place of an answer: why there is none, or that it is on its way. */
export function NotYet({ error, words }: { error: Error | null; words: string }) {
  if (error)
    return (
      <p role="alert" className="p-5 text-error">
        {wordsOf(error)}
      </p>
    );
  return <div className="grid flex-1 place-items-center text-faint">{words}</div>;
}

import { readMailbox } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { time } from '../../kit/format.ts';

/** What mails of the demo say, which leave for nowhere: they are read here. */
export function Mailbox() {
  const { data, error } = useQuery({ ...question(readMailbox), staleTime: 0 });
  if (error)
    return (
      <p role="alert" className="text-error">
        {wordsOf(error)}
      </p>
    );
  const mails = data?.mails ?? [];
  return (
    <>
      <p className="mb-2 text-faint">
        {mails.length === 0
          ? 'No mail was sent yet. In the demo none leaves this machine: they would be here, to be read.'
          : 'In the demo no mail leaves this machine: these would have been sent.'}
      </p>
      <ol aria-label="Mails" className="divide-y divide-base-300">
        {mails.map(({ id, to, subject, text, sentAt }) => (
          <li key={id} className="py-2">
            <p>
              <b className="font-semibold">{subject}</b>{' '}
              <span className="text-[12.5px] text-faint">
                to {to}, {time(sentAt)}
              </span>
            </p>
            <p className="mt-1 max-w-2xl whitespace-pre-line break-words">{text}</p>
          </li>
        ))}
      </ol>
    </>
  );
}

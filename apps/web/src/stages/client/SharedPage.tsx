import { readSharedPlan } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Printer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { tokenHere } from '../../door/token-here.ts';
import { date } from '../../kit/format.ts';
import { ClientSheet } from './ClientSheet.tsx';

/** A plan as a client reads it by a link. The link stays in the window's memory alone: it is asked with each look. */
export function SharedPage() {
  const [token] = useState(tokenHere);
  const { data, error } = useQuery({
    queryKey: ['shared plan', token],
    queryFn: () => call(readSharedPlan, { body: { token } }),
    enabled: token !== '',
    retry: false,
  });
  const name = data?.plan.client || data?.plan.name;
  useEffect(() => {
    document.title = name ? `${name} – plan of ${date(new Date().toISOString())}` : 'A plan';
  }, [name]);
  if (error || token === '')
    return (
      <main className="grid h-full place-items-center p-6">
        <p role="alert" className="max-w-prose">
          {error
            ? wordsOf(error)
            : 'The link is not in the address any more. Open it again from where it was sent to you.'}
        </p>
      </main>
    );
  if (!data)
    return <div className="grid h-full place-items-center text-faint">Putting the page together …</div>;
  const { plan, view, endsAt, from } = data;
  return (
    <div className="flex h-full flex-col bg-base-200 print:block print:h-auto print:bg-white">
      <header className="flex shrink-0 flex-wrap items-center gap-3 border-hair border-b bg-base-100 px-4 py-2 print:hidden">
        <img src="/sprig.svg" alt="" width="22" height="22" />
        <span className="text-faint">
          From {from}. This link works until {date(endsAt)}.
        </span>
        <button type="button" className="btn btn-primary btn-sm ml-auto" onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print or save as PDF
        </button>
      </header>
      <ClientSheet
        plan={{ ...plan, hasFacts: true }}
        counts={plan.counts}
        page={plan.page}
        forecast={plan.forecast}
        isBehind={plan.isBehind}
        has={(part) => !view.without.includes(part)}
      />
    </div>
  );
}

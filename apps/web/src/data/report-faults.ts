import { reportFault } from '@sprig/contracts';
import { onFault } from '../kit/faults.ts';
import { call } from './call.ts';

/** Has what fails on a screen told to the server's log, under the number that the screen shows. */
export function reportFaults(): void {
  onFault(({ number, part, error }) => {
    console.error(`error ${number}`, part, error);
    const { message, stack = '' } = error instanceof Error ? error : new Error(String(error));
    const body = {
      number,
      part: part.slice(0, 200),
      message: message.slice(0, 2_000),
      stack: stack.slice(0, 8_000),
      address: window.location.pathname.slice(0, 500),
    };
    // Where the server is away too there is nobody to tell.
    void call(reportFault, { body }).catch(() => {});
  });
}

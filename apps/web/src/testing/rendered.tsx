import { cleanup, type RenderResult, render } from '@testing-library/react';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { afterEach, vi } from 'vitest';

/** How tall everything is: the document of the tests lays nothing out by itself. */
const HEIGHT = 600;
const WIDTH = 1_000;

for (const [name, size] of [
  ['offsetHeight', HEIGHT],
  ['clientHeight', HEIGHT],
  ['offsetWidth', WIDTH],
  ['clientWidth', WIDTH],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => size });

class Observer {
  observe() {}
  unobserve() {}
  disconnect() {}
}
vi.stubGlobal('ResizeObserver', Observer);
Element.prototype.scrollTo = () => {};
HTMLDialogElement.prototype.showModal = function (this: HTMLDialogElement) {
  this.open = true;
};
HTMLDialogElement.prototype.close = function (this: HTMLDialogElement) {
  this.open = false;
};

afterEach(cleanup);

/** What is on the screen, and somebody with a mouse and a keyboard before it. */
export function shown(element: ReactElement): RenderResult & { user: UserEvent } {
  const user = userEvent.setup();
  return { ...render(element), user };
}

/** An answer that the test gives when it wants to. */
export function awaited<T>() {
  let answer: (value: T) => void = () => {};
  let refuse: (error: Error) => void = () => {};
  const promise = new Promise<T>((resolve, reject) => {
    answer = resolve;
    refuse = reject;
  });
  return { promise, answer, refuse };
}

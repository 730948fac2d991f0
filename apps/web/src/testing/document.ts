import { cleanup, configure } from '@testing-library/react';
import { afterAll, afterEach, vi } from 'vitest';

// What comes is waited for on a slow machine too; what does not come fails all the same.
configure({ asyncUtilTimeout: 10_000 });

/** How large everything is: the document of the tests lays nothing out by itself. */
const HEIGHT = 600;
const WIDTH = 1_000;

for (const [name, size] of [
  ['offsetHeight', HEIGHT],
  ['clientHeight', HEIGHT],
  ['offsetWidth', WIDTH],
  ['clientWidth', WIDTH],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => size });

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
Element.prototype.scrollTo = () => {};
Element.prototype.scrollIntoView = () => {};
Element.prototype.setPointerCapture = () => {};
HTMLDialogElement.prototype.showModal = function (this: HTMLDialogElement) {
  this.open = true;
};
HTMLDialogElement.prototype.close = function (this: HTMLDialogElement) {
  this.open = false;
};

afterEach(cleanup);

// Files share the document: each leaves it as it found it.
afterAll(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
  localStorage.clear();
  sessionStorage.clear();
  document.body.replaceChildren();
  for (const name of document.documentElement.getAttributeNames())
    document.documentElement.removeAttribute(name);
});

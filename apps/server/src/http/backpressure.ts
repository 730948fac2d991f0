import type { Response } from 'express';

/**
 * Writes to a response no faster than the window takes it. A window that goes away ends the writing with an error,
 * instead of keeping what writes waiting for ever.
 */
export class ResponseStream {
  private wake: (() => void) | null = null;
  private gone = false;

  constructor(private readonly response: Response) {
    // One listener for all writes: a compressed response never takes its listeners off again.
    response.on('drain', () => this.wake?.());
    response.on('close', () => {
      this.gone = true;
      this.wake?.();
    });
  }

  async write(chunk: Uint8Array): Promise<void> {
    if (this.gone || this.response.destroyed) throw new WindowGone();
    if (this.response.write(chunk)) return;
    await new Promise<void>((done) => {
      this.wake = done;
    });
    if (this.gone) throw new WindowGone();
  }

  end(): void {
    this.response.end();
  }
}

/** Not a failure of ours: nobody is there to be told. */
export class WindowGone extends Error {}

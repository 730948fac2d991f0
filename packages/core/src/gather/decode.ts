import { windowsText } from '../text/index.ts';
import type { Encoding } from './encoding.ts';

/** Bytes to text, piece by piece where `stream` is set. The platform's own decoders are such. */
export type Decoder = { decode(bytes?: Uint8Array, options?: { stream?: boolean }): string };

/**
 * The one way by which readers of lists and sheets decode. Windows-1252 is decoded here: given all of a text at once,
 * the platform's decoder takes the bytes from 0x80 to 0x9f (`€ ’ “ –`) for control characters. `platform` makes a
 * decoder of any other encoding.
 */
export const decoderOf = (encoding: Encoding, platform: (encoding: Encoding) => Decoder): Decoder =>
  encoding === 'windows-1252' ? { decode: (bytes) => (bytes ? windowsText(bytes) : '') } : platform(encoding);

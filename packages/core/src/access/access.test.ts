import { describe, expect, test } from 'vitest';
import {
  countAt,
  float32At,
  float64At,
  gotten,
  int32At,
  itemAt,
  numberAt,
  stringAt,
  uint8At,
  uint32At,
} from './index.ts';

describe('what has to be there', () => {
  test.each([
    ['float64At', (at: number) => float64At(Float64Array.of(7, 0), at)],
    ['float32At', (at: number) => float32At(Float32Array.of(7, 0), at)],
    ['int32At', (at: number) => int32At(Int32Array.of(7, 0), at)],
    ['uint32At', (at: number) => uint32At(Uint32Array.of(7, 0), at)],
    ['uint8At', (at: number) => uint8At(Uint8Array.of(7, 0), at)],
    ['countAt', (at: number) => countAt({ length: 2, 0: 7, 1: 0 }, at)],
    ['numberAt', (at: number) => numberAt([7, 0], at)],
  ])('%s gives it, nought among it, and says where nothing stands', (_, of) => {
    expect([of(0), of(1)]).toEqual([7, 0]);
    for (const at of [-1, 2]) expect(() => of(at)).toThrow(`Nothing stands at ${at} of 2.`);
  });

  test('so do lists of texts and of items', () => {
    expect([stringAt(['', 'a'], 0), itemAt([null, 'a'], 0)]).toEqual(['', null]);
    expect(() => stringAt(['a'], 1)).toThrow(RangeError);
    expect(() => itemAt([{}], 1)).toThrow(RangeError);
  });

  test('a map says for which key nothing is kept', () => {
    expect(gotten(new Map([['a', 0]]), 'a')).toBe(0);
    expect(() => gotten(new Map([['a', 0]]), 'b')).toThrow('Nothing is kept for b.');
  });
});

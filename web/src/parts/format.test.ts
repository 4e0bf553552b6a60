import { describe, expect, it } from 'vitest';
import { apart, bytes, dayOf, inWords, many, pixels, tail, when } from './format';

describe('numbers, dates and paths for people', () => {
  it('writes bytes in decimal units', () => {
    expect([0, 999, 1000, 29_550, 6_100_000, 158_000_000, 1_940_000_000].map(bytes)).toEqual([
      '0 B',
      '999 B',
      '1.0 kB',
      '29.6 kB',
      '6.1 MB',
      '158 MB',
      '1.9 GB',
    ]);
    expect(bytes(null)).toBe('unknown');
  });

  it('counts and measures', () => {
    expect([many(1, 'file'), many(20_000, 'file'), many(2, 'library', 'libraries')]).toEqual([
      '1 file',
      '20,000 files',
      '2 libraries',
    ]);
    expect([pixels(512, 256), pixels(null, 4)]).toEqual(['512 × 256', 'unknown']);
    expect([inWords(3), inWords(40)]).toEqual(['three', '40']);
    expect([apart(2.03, 2), apart(2.2, 2), apart(1.98, 2)]).toEqual(['2.03', '2.2', '2.0']);
  });

  it('says when in the words of the day', () => {
    const now = new Date(2026, 10, 25, 15, 0);
    const at = (...date: [number, number, number, number, number]) => new Date(...date).toISOString();
    expect(dayOf(at(2026, 10, 25, 9, 5), now)).toBe('today');
    expect(dayOf(at(2026, 10, 24, 23, 59), now)).toBe('yesterday');
    expect(dayOf(at(2026, 10, 3, 1, 0), now)).toBe('3 November');
    expect(dayOf(at(2025, 2, 3, 1, 0), now)).toBe('3 March 2025');
    expect(when(at(2026, 10, 25, 9, 5), now)).toBe('09:05');
    expect(when(at(2026, 10, 3, 1, 0), now)).toBe('3 November, 01:00');
  });

  it('keeps the part of a folder that tells it from others', () => {
    expect(tail('library/metals')).toBe('library/metals');
    expect(tail('library/tin-orchard/wip/signs', 24)).toBe('…/tin-orchard/wip/signs');
  });
});

/** The six stages in the order the work is done. */
export const stages = [
  { name: 'Arrivals', path: 'arrivals' },
  { name: 'Muster', path: 'muster' },
  { name: 'Findings', path: 'findings' },
  { name: 'Bench', path: 'bench' },
  { name: 'Crossing', path: 'crossing' },
  { name: 'Send-off', path: 'send-off' },
] as const;

export type StageName = (typeof stages)[number]['name'];

const first = 248 / 1224;
const step = 162 / 1224;

/** Where a station stands on the line, as a CSS length from the window's left edge. */
export const stationAt = (index: number) => `calc(28px + (100% - 56px) * ${first + index * step})`;

/** The sequential scale of differences, dark where nothing differs: CIE L* 5 to 96 in equal steps. */
export const kiln = [
  '#14100f',
  '#3a1e18',
  '#672d22',
  '#97422f',
  '#c1623f',
  '#d98d55',
  '#e5b57c',
  '#f0d9b0',
  '#faf4e6',
] as const;

const steps = kiln.map((c) => [1, 3, 5].map((i) => parseInt(c.slice(i, i + 2), 16)));

/** Red, green and blue of a share of the scale, 0 to 1. */
export function kilnAt(share: number): [number, number, number] {
  const at = Math.min(1, Math.max(0, share)) * (steps.length - 1);
  const low = Math.min(Math.floor(at), steps.length - 2);
  const [a, b] = [steps[low] ?? [0, 0, 0], steps[low + 1] ?? [0, 0, 0]];
  const mixed = (i: number) => (a[i] ?? 0) + ((b[i] ?? 0) - (a[i] ?? 0)) * (at - low);
  return [mixed(0), mixed(1), mixed(2)];
}

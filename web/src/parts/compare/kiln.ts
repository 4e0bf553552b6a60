/** The tokens of the sequential scale of differences, from dark where nothing differs. */
export const kiln = Array.from({ length: 9 }, (_, i) => `--rc-kiln-${String(i)}`);

/** The scale as the page has it: red, green and blue of a share of it, 0 to 1. */
export function kilnScale(): (share: number) => [number, number, number] {
  const style = getComputedStyle(document.documentElement);
  const steps = kiln.map((token) => {
    const colour = style.getPropertyValue(token).trim();
    return [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));
  });
  return (share) => {
    const at = Math.min(1, Math.max(0, share)) * (steps.length - 1);
    const low = Math.min(Math.floor(at), steps.length - 2);
    const mixed = (i: number) => {
      const [a, b] = [steps[low]?.[i] ?? 0, steps[low + 1]?.[i] ?? 0];
      return a + (b - a) * (at - low);
    };
    return [mixed(0), mixed(1), mixed(2)];
  };
}

/** Where `after` stops being the same as `before`, from the left and from the right. */
export function differing(before: string, after: string): [number, number] {
  let start = 0;
  while (start < after.length && before[start] === after[start]) start++;
  let end = after.length;
  let old = before.length;
  while (end > start && old > start && before[old - 1] === after[end - 1]) {
    end--;
    old--;
  }
  return [start, end];
}

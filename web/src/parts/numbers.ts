/** Numbers as they are typed: spaces or commas between them. Null when one of them is none. */
export function numbersOf(text: string): number[] | null {
  const parts = text.trim().split(/[\s,]+/);
  const numbers = parts.map(Number);
  return text.trim() === '' || numbers.some((n) => !Number.isFinite(n)) ? null : numbers;
}

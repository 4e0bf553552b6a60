/** The data of an SVG path, its numbers to a tenth of a pixel: path`M${x} ${y}h26`. */
export const path = (words: TemplateStringsArray, ...numbers: number[]) =>
  String.raw({ raw: words }, ...numbers.map((n) => Math.round(n * 10) / 10));

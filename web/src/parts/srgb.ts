/** The transfer function of IEC 61966-2-1, for fields that show a linear colour as a display does. */
const encode = (linear: number) => {
  const v = Math.min(1, Math.max(0, linear));
  return v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
};

const decode = (display: number) => (display <= 0.04045 ? display / 12.92 : ((display + 0.055) / 1.055) ** 2.4);

/** `#rrggbb` of a linear colour; what lies outside 0 to 1 is cut off. */
export const hexOf = (linear: readonly number[]) =>
  `#${linear
    .slice(0, 3)
    .map((v) =>
      Math.round(encode(v) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** The linear colour of `#rrggbb`, to five places. */
export const linearOf = (hex: string) =>
  [1, 3, 5].map((at) => Math.round(decode(parseInt(hex.slice(at, at + 2), 16) / 255) * 1e5) / 1e5);

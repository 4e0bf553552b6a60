/** One stroke an entry, the fifth across; pending ones dashed. Only the last fives are drawn. */
export function Tally({ applied, pending }: { applied: number; pending: number }) {
  const most = 30;
  const skip = Math.max(0, Math.floor((applied + pending - most) / 5) * 5);
  const total = applied + pending - skip;
  const x = (i: number) => 2 + Math.floor(i / 5) * 23 + (i % 5) * 4;
  return (
    <svg width={total > 0 ? x(total - 1) + 18 : 0} height="18" aria-hidden="true">
      {Array.from({ length: total }, (_, i) => {
        const waits = i + skip >= applied;
        const five = i % 5 === 4;
        const start = x(i - (i % 5));
        return (
          <path
            key={i}
            d={five ? `M${start - 1.5} 14.5L${start + 14.5} 3.5` : `M${x(i)} 3V15`}
            stroke={waits ? 'var(--rc-lichen)' : 'var(--rc-soft)'}
            strokeWidth="1.6"
            strokeDasharray={waits ? '2 2' : undefined}
          />
        );
      })}
    </svg>
  );
}

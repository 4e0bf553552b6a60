import type { CauseView } from '../../api/client';
import { Hint } from '../../parts/Hint';

type Sum = CauseView['evidence']['sums'][number];

const kinds = ['wire', 'values', 'set', 'name'] as const;
const headings = { wire: 'Wire', values: 'Values', set: 'Set', name: 'Name' };

const signed = (bits: number) => (bits > 0 ? `+${bits}` : `−${-bits}`);

/** What speaks for each role that an image may be made for, kind by kind, in bits; the sum decides. */
export function RoleSums({ sums }: { sums: Sum[] }) {
  return (
    <figure className="flex-none">
      <figcaption className="mb-1 text-[12px] font-medium text-quiet">What it is made for, in bits</figcaption>
      <table className="text-[12.5px] leading-6">
        <thead>
          <tr className="text-left text-quiet">
            <th scope="col" className="pr-5 font-medium">
              As
            </th>
            {kinds.map((kind) => (
              <th key={kind} scope="col" className="w-12 text-right font-medium">
                {headings[kind]}
              </th>
            ))}
            <th scope="col" className="w-12 text-right font-medium">
              Sum
            </th>
          </tr>
        </thead>
        <tbody>
          {sums.map((sum, i) => (
            <tr key={sum.role} className={i === 0 ? 'text-ink' : 'text-soft'}>
              <th scope="row" className={`pr-5 text-left ${i === 0 ? 'font-[680]' : 'font-normal'}`}>
                {sum.role}
              </th>
              {kinds.map((kind) => (
                <Cell key={kind} of={sum.of.filter((e) => e.kind === kind)} />
              ))}
              <td className={`mono text-right ${i === 0 ? 'font-[680]' : ''}`}>{sum.bits}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}

function Cell({ of }: { of: Sum['of'] }) {
  if (of.length === 0) return <td className="text-right text-quiet">·</td>;
  const bits = of.reduce((sum, e) => sum + e.bits, 0);
  return (
    <td className="mono text-right">
      <Hint text={of.map((e) => `${e.sentence} (${signed(e.bits)})`).join('; ')}>
        <span tabIndex={0} className={`underline decoration-dotted underline-offset-4 ${bits < 0 ? 'text-clay' : ''}`}>
          {signed(bits)}
        </span>
      </Hint>
    </td>
  );
}

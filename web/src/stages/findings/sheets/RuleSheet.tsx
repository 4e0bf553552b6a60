import type { RuleView } from '../../../api/client';
import { RisingSheet } from '../../../parts/RisingSheet';

/** The help of a rule: what it expects, why, from where, and an example. */
export function RuleSheet({ rule, onOpenChange }: { rule: RuleView; onOpenChange: (open: boolean) => void }) {
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      title={rule.title}
      about={
        <>
          <code>{rule.id}</code>, {rule.severity}
          {rule.severity !== rule.usual && ` (usually ${rule.usual})`}
        </>
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-8 overflow-y-auto">
        <dl className="grid h-fit grid-cols-[80px_minmax(0,1fr)] gap-y-2">
          {(
            [
              ['Expects', rule.expects],
              ['Why', rule.why],
              ['Source', rule.source],
              ['Fix', rule.fix ?? 'Only a person can decide.'],
              ...rule.thresholds.map((t): [string, string] => [
                t.name,
                `${t.value}${t.unit && ` ${t.unit}`}. ${t.meaning}`,
              ]),
            ] as [string, string][]
          ).map(([term, text]) => (
            <div key={term} className="contents">
              <dt className="text-quiet">{term}</dt>
              <dd>{text}</dd>
            </div>
          ))}
        </dl>
        <figure className="min-w-0">
          <figcaption className="pb-1 text-[12px] text-quiet">A scene that breaks it ({rule.language})</figcaption>
          <pre
            className="overflow-x-auto whitespace-pre-wrap border-l-2 border-rule pl-3 text-[11.5px] leading-4"
            tabIndex={0}
          >
            <code>{rule.example}</code>
          </pre>
        </figure>
      </div>
    </RisingSheet>
  );
}

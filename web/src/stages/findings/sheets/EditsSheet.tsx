import type { FixView } from '../../../api/client';
import { count } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';

/** What the fix would write, edit by edit. */
export function EditsSheet({ fix, onOpenChange }: { fix: FixView; onOpenChange: (open: boolean) => void }) {
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      title={fix.count || 'No edit'}
      about="Nothing is written until the entry is applied; the arrived files stay as they are."
    >
      <Lines fix={fix} />
    </RisingSheet>
  );
}

export function Lines({ fix }: { fix: FixView }) {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <table hidden={fix.first.length === 0} className="w-full table-fixed text-[12.5px]">
        <thead className="text-left text-[11.5px] text-quiet">
          <tr>
            <th className="w-36 font-normal">Edit</th>
            <th className="w-72 font-normal">Where</th>
            <th className="font-normal">Before</th>
            <th className="font-normal">After</th>
          </tr>
        </thead>
        <tbody>
          {fix.first.map((e) => (
            <tr key={`${e.what} ${e.where} ${e.before} ${e.after}`} className="border-t border-hair">
              <td className="truncate py-0.5 text-quiet">{e.what}</td>
              <td className="truncate">{e.where}</td>
              <td className="truncate pr-3">
                <code className="text-[11.5px] text-quiet">{e.before}</code>
              </td>
              <td className="truncate">
                <code className="text-[11.5px]">{e.after}</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {fix.edits > fix.first.length && (
        <p className="pt-1 text-[12px] text-quiet">and {count(fix.edits - fix.first.length)} more</p>
      )}
      {fix.left.map((l) => (
        <p key={l.target + l.reason} className="pt-1 text-[12px] text-soft">
          Left: {l.target}. {l.reason}
        </p>
      ))}
    </div>
  );
}

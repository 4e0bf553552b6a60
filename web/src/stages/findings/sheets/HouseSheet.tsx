import clsx from 'clsx';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { RuleView } from '../../../api/client';
import { useHouseActs, useHouseText, useRules } from '../../../api/queries';
import { capital, many } from '../../../parts/format';
import { Glyph } from '../../../parts/Glyph';
import { RisingSheet } from '../../../parts/RisingSheet';
import { JsonEditor } from './JsonEditor';

/** Which rules are on, how serious each is, and its numbers. */
export function HouseSheet({ onOpenChange }: { onOpenChange: (open: boolean) => void }) {
  const rules = useRules().data ?? [];
  const text = useHouseText().data?.text;
  const acts = useHouseActs();
  const [asJson, setAsJson] = useState(false);
  const [find, setFind] = useState('');
  const shown = rules.filter((r) => `${r.id} ${r.title} ${r.expects}`.toLowerCase().includes(find.toLowerCase()));
  const changed = rules.filter((r) => !r.on || r.severity !== r.usual).length;
  const chosen = changed === 0 ? 'all as they ship' : `${changed} chosen otherwise`;
  const families = [...new Set(shown.map((r) => r.family))];
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      tall
      title="House rules"
      about={`${many(rules.length, 'rule')}; ${chosen}. They hold for every scene.`}
      aside={
        <>
          {!asJson && (
            <input
              type="search"
              aria-label="Find a rule"
              placeholder="find a rule"
              className="w-40 border-b border-rule bg-transparent text-[12.5px]"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
          )}
          <button type="button" className="act soft" onClick={() => setAsJson(!asJson)}>
            {asJson ? 'As a list' : 'Patterns, shader types, export and import'}
          </button>
        </>
      }
    >
      {asJson && text !== undefined ? (
        <JsonEditor
          key={text}
          label="House rules"
          text={text}
          file="house-rules.json"
          busy={acts.write.isPending}
          onSave={(t) => acts.write.mutate(t, { onSuccess: () => setAsJson(false) })}
          onBack={() => setAsJson(false)}
        />
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto">
          {families.map((family) => (
            <section key={family}>
              <h3 className="sticky top-0 bg-well pb-0.5 pt-2 text-[13px] font-[680]">{capital(family)}</h3>
              {shown
                .filter((r) => r.family === family)
                .map((r) => (
                  <RuleRow
                    key={r.id}
                    rule={r}
                    onChoose={(severity, thresholds) => acts.choose.mutate({ rule: r.id, severity, thresholds })}
                  />
                ))}
            </section>
          ))}
        </div>
      )}
    </RisingSheet>
  );
}

type Choose = (severity: string | null, thresholds: Record<string, number> | null) => void;

function RuleRow({ rule, onChoose }: { rule: RuleView; onChoose: Choose }) {
  const now = rule.on ? rule.severity : 'off';
  return (
    <div
      className={clsx(
        'grid min-h-7 grid-cols-[minmax(0,1fr)_250px_260px_130px] items-center gap-x-4 border-t border-hair text-[12.5px]',
        !rule.on && 'text-quiet',
      )}
    >
      <span className="truncate" title={rule.expects}>
        {rule.title}
      </span>
      <code className="truncate text-[11.5px] text-quiet">{rule.id}</code>
      <span className="flex gap-3">
        {rule.thresholds.map((t) => (
          <label key={t.name} className="flex items-center gap-1 text-[12px] text-quiet" title={t.meaning}>
            {t.name}
            <input
              type="number"
              step="any"
              className="mono w-16 border border-rule bg-ground px-1 text-right text-[11.5px] text-ink"
              defaultValue={t.value}
              onBlur={(e) => {
                const value = Number(e.target.value);
                if (Number.isFinite(value) && value !== t.value)
                  onChoose(rule.on ? rule.severity : 'off', { [t.name]: value });
              }}
            />
            {t.unit}
          </label>
        ))}
      </span>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <button type="button" className="act soft flex items-center gap-1.5" aria-label={`${rule.title}: ${now}`}>
            {now !== 'off' && <Glyph name={now} className={now === 'blocker' ? 'text-clay' : ''} />}
            {now}
            {now !== rule.usual && <span className="text-quiet">(usually {rule.usual})</span>}
          </button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
            {['blocker', 'warning', 'note', 'off'].map((s) => (
              <DropdownMenu.Item key={s} onSelect={() => onChoose(s, null)}>
                {s !== 'off' ? <Glyph name={s} /> : <span className="w-4" />}
                {s}
                {s === rule.usual && <span className="text-quiet">as it ships</span>}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

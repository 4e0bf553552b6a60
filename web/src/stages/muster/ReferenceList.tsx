import {
  FlexRender,
  functionalUpdate,
  useTable,
  type Row,
  type SortingState,
  type Updater,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { DropdownMenu } from 'radix-ui';
import { memo, useCallback, useEffect, useMemo, useRef } from 'react';
import type { ReferenceItem } from '../../api/client';
import { useInAddress } from '../../state/address';
import { useFocus } from '../../state/focus';
import { useSize } from '../../parts/useSize';
import { useSettings } from '../../state/settings';
import { columns, crowdedOut, features, rightAligned, tracksOf } from './columns';

interface ReferenceListProps {
  references: ReferenceItem[];
  /** Which of them are shown. Sorting takes longer than narrowing, so it is done for all, once. */
  shows: (reference: ReferenceItem) => boolean;
  current: number | undefined;
  onCurrent: (number: number) => void;
  onOpen: (number: number) => void;
}

const pageRows = 10;
const headerHeight = 20;

/** A sorting as the address says it: `name`, `-name` for the other way round. */
const sortingOf = (word = 'state'): SortingState => [{ id: word.replace(/^-/, ''), desc: word.startsWith('-') }];
const wordOf = ([by]: SortingState) => by && `${by.desc ? '-' : ''}${by.id}`;

/** Every reference, virtualised: sorted by its headers, moved through and picked by keyboard. */
export function ReferenceList({ references, shows, current, onCurrent, onOpen }: ReferenceListProps) {
  const { hidden, roomy } = useSettings();
  const [sort, setSort] = useInAddress('sort');
  const sorting = useMemo(() => sortingOf(sort), [sort]);
  const setSorting = (change: Updater<SortingState>) => setSort(wordOf(functionalUpdate(change, sorting)));
  const [box, { width }] = useSize();
  const columnVisibility = useMemo(
    () => Object.fromEntries([...hidden, ...crowdedOut(width, hidden)].map((id) => [id, false])),
    [hidden, width],
  );
  const table = useTable({
    features,
    columns,
    data: references,
    state: { sorting, columnVisibility },
    onSortingChange: setSorting,
    enableSortingRemoval: false,
    getRowId: (r: ReferenceItem) => String(r.number),
  });
  const sorted = table.getRowModel().rows;
  const rows = useMemo(() => sorted.filter((r) => shows(r.original)), [sorted, shows]);
  const originals = useMemo(() => rows.map((r) => r.original), [rows]);
  const visible = table.getVisibleLeafColumns();
  const template = tracksOf(visible.map((c) => c.id));
  const scroller = useRef<HTMLDivElement>(null);
  const height = roomy ? 30 : 22;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 6,
    // Drawn with the next frame rather than inside the scroll event, which would make that frame longer.
    useFlushSync: false,
    scrollPaddingStart: headerHeight,
  });
  useEffect(() => virtual.measure(), [virtual, height]);

  const at = useMemo(() => originals.findIndex((r) => r.number === current), [originals, current]);
  // The first row is in hand when what was in hand is filtered away.
  const firstNumber = rows[0]?.original.number;
  useEffect(() => {
    if (at < 0 && firstNumber !== undefined) onCurrent(firstNumber);
  }, [at, firstNumber, onCurrent]);

  const { move, pick, onKeyDown } = useRowKeys(originals, at, onCurrent, onOpen, (i) => virtual.scrollToIndex(i));
  const files = useFocus((s) => s.files);
  // One function for all rows and renders, so that rows which did not change are not drawn again.
  const acts = useRef({ move, pick });
  useEffect(() => {
    acts.current = { move, pick };
  });
  const onRowClick = useCallback((index: number, event: React.MouseEvent) => {
    if (event.shiftKey) acts.current.pick(index, true);
    else if (event.ctrlKey || event.metaKey) acts.current.pick(index, false);
    acts.current.move(index);
  }, []);

  return (
    <section ref={box} className="flex h-full min-w-0 flex-col" aria-label="References">
      <div
        ref={scroller}
        role="grid"
        aria-label="References"
        aria-rowcount={rows.length + 1}
        aria-multiselectable="true"
        aria-activedescendant={at >= 0 ? `reference-${current}` : undefined}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-y-auto outline-offset-[-2px]"
        onKeyDown={onKeyDown}
        data-list="references"
      >
        <div
          role="row"
          className="sticky top-0 z-10 grid h-5 gap-x-2 border-b border-hair bg-ground text-[11.5px] text-quiet"
          style={{ gridTemplateColumns: template }}
        >
          <span role="columnheader" aria-label="Picked" />
          {table.getHeaderGroups()[0]?.headers.map((header) => {
            const sorted = header.column.getIsSorted();
            return (
              <span
                key={header.id}
                role="columnheader"
                aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                className={rightAligned.has(header.column.id) ? 'text-right' : ''}
              >
                <button
                  type="button"
                  tabIndex={-1}
                  className={`hover:text-ink ${sorted ? 'text-soft underline underline-offset-2' : ''}`}
                  onClick={header.column.getToggleSortingHandler()}
                >
                  <table.FlexRender header={header} />
                  {sorted === 'desc' && ' ↑'}
                  {sorted === 'asc' && ' ↓'}
                </button>
              </span>
            );
          })}
        </div>
        <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (!row) return null;
            const { number } = row.original;
            const picked = files.has(number);
            return (
              <ListRow
                key={row.id}
                row={row}
                index={item.index}
                top={item.start}
                height={height}
                template={template}
                inHand={number === current}
                picked={picked}
                joined={picked && files.has(rows[item.index + 1]?.original.number ?? -1)}
                onClick={onRowClick}
                onOpen={onOpen}
              />
            );
          })}
        </div>
      </div>
    </section>
  );
}

interface ListRowProps {
  row: Row<typeof features, ReferenceItem>;
  index: number;
  top: number;
  height: number;
  template: string;
  inHand: boolean;
  picked: boolean;
  joined: boolean;
  onClick: (index: number, event: React.MouseEvent) => void;
  onOpen: (number: number) => void;
}

const ListRow = memo(function ListRow(props: ListRowProps) {
  const { row, index, top, height, template, inHand, picked, joined, onClick, onOpen } = props;
  const { number, state, entry } = row.original;
  return (
    <div
      id={`reference-${number}`}
      role="row"
      aria-rowindex={index + 2}
      aria-selected={picked}
      data-state={state}
      className={`absolute inset-x-0 grid items-center gap-x-2 whitespace-nowrap text-[12.5px] ${inHand ? 'bg-held' : 'hover:bg-raise'}`}
      style={{ gridTemplateColumns: template, height, transform: `translateY(${top}px)` }}
      onClick={(event) => onClick(index, event)}
      onDoubleClick={() => onOpen(number)}
    >
      <span role="gridcell" className="relative h-full" aria-label={picked ? 'picked' : 'not picked'}>
        {picked && <span className="absolute left-[3px] top-1/2 size-2 -translate-y-1/2 rounded-full bg-ink" />}
        {joined && <span className="absolute left-[6px] top-1/2 h-full w-0.5 bg-ink" />}
      </span>
      {row.getVisibleCells().map((cell) => (
        <span role="gridcell" key={cell.id} className="flex min-w-0 items-center [&>*]:min-w-0 [&>.mono]:flex-1">
          <FlexRender cell={cell} />
          {cell.column.id === 'state' && entry !== null && <span className="sr-only">, pending</span>}
        </span>
      ))}
    </div>
  );
});

/** Arrows, J and K move; Space picks, with Shift from the last pick on; Enter opens large. */
function useRowKeys(
  rows: ReferenceItem[],
  at: number,
  onCurrent: (number: number) => void,
  onOpen: (number: number) => void,
  show: (index: number) => void,
) {
  const { files, pick: put } = useFocus();
  const anchor = useRef(0);
  const move = (to: number) => {
    const next = rows[Math.min(rows.length - 1, Math.max(0, to))];
    if (!next) return;
    onCurrent(next.number);
    show(rows.indexOf(next));
  };
  const pick = (index: number, range: boolean) => {
    const row = rows[index];
    if (!row) return;
    if (range) {
      const [from, to] = [Math.min(anchor.current, index), Math.max(anchor.current, index)];
      put(
        rows.slice(from, to + 1).map((r) => r.number),
        true,
      );
      return;
    }
    anchor.current = index;
    put([row.number], !files.has(row.number));
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.ctrlKey && event.key === 'a')
      put(
        rows.map((r) => r.number),
        true,
      );
    else if (event.key === 'ArrowDown' || event.key === 'j') move(at + 1);
    else if (event.key === 'ArrowUp' || event.key === 'k') move(at - 1);
    else if (event.key === 'PageDown') move(at + pageRows);
    else if (event.key === 'PageUp') move(at - pageRows);
    else if (event.key === 'Home') move(0);
    else if (event.key === 'End') move(rows.length - 1);
    else if (event.key === ' ') pick(at, event.shiftKey);
    else if (event.key === 'Enter' && rows[at]) onOpen(rows[at].number);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return { move, pick, onKeyDown };
}

/** Which columns are shown; each person's own choice. */
export function ColumnsMenu() {
  const { hidden, set } = useSettings();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="act soft">Columns</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          {columns.map((column) => {
            const id = column.id ?? ('accessorKey' in column ? String(column.accessorKey) : '');
            return (
              <DropdownMenu.CheckboxItem
                key={id}
                checked={!hidden.includes(id)}
                disabled={id === 'state' || id === 'name'}
                onCheckedChange={(on) => set({ hidden: on ? hidden.filter((h) => h !== id) : [...hidden, id] })}
                onSelect={(e) => e.preventDefault()}
              >
                <span className={`size-2 rounded-full ${hidden.includes(id) ? 'border border-quiet' : 'bg-ink'}`} />
                {String(column.header)}
              </DropdownMenu.CheckboxItem>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

import {
  columnVisibilityFeature,
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
} from '@tanstack/react-table';
import type { ReferenceItem } from '../../api/client';
import { bytes, pixels } from '../../parts/format';
import { State } from '../../parts/Glyph';
import { MidCut } from '../../parts/MidCut';
import { flagWords } from '../../parts/words';

export const features = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
});

/** What needs the artist comes first. */
const urgency = [
  'contested',
  'missing',
  'damaged',
  'changed',
  'stand-in',
  'elsewhere',
  'outside',
  'relinked',
  'present',
  'embedded',
];

const column = createColumnHelper<typeof features, ReferenceItem>();

/** A stand-in and a file that changed are told where the state stands: the eye is there. */
const shownState = (r: ReferenceItem) =>
  r.flags.includes('stand-in')
    ? 'stand-in'
    : r.flags.includes('changed') && r.state === 'present'
      ? 'changed'
      : r.state === 'present' && r.relinked
        ? 'relinked'
        : r.state;

interface Room {
  /** In pixels. */
  least: number;
  /** Its share of what is left over; 0 for a column that never grows. */
  grows: number;
}

/** The room that columns take, those that give way first where there is little of it at the top. */
const rooms = new Map<string, Room>([
  ['bytes', { least: 64, grows: 0 }],
  ['pixels', { least: 98, grows: 0 }],
  ['role', { least: 112, grows: 0 }],
  ['folder', { least: 124, grows: 0.8 }],
  // Hidden unless somebody chose them.
  ['answer', { least: 110, grows: 0.8 }],
  ['flags', { least: 110, grows: 0.8 }],
  ['usedBy', { least: 112, grows: 0.9 }],
  ['name', { least: 200, grows: 1.6 }],
  ['state', { least: 132, grows: 0 }],
]);

/** Of the beads before the first column, and between columns. */
const [beads, gap] = [14, 8];

/** Grid tracks of a row with these columns. */
export const tracksOf = (ids: readonly string[]): string =>
  [
    `${String(beads)}px`,
    ...ids.map((id) => {
      const { least, grows } = rooms.get(id) ?? { least: 0, grows: 1 };
      return grows === 0 ? `${String(least)}px` : `minmax(${String(least)}px,${String(grows)}fr)`;
    }),
  ].join(' ');

/** The columns that do not fit into that width, beside those that are hidden anyway. */
export function crowdedOut(width: number, hidden: readonly string[]): string[] {
  const out: string[] = [];
  const shown = [...rooms].filter(([id]) => !hidden.includes(id));
  let taken = beads + shown.reduce((sum, [, { least }]) => sum + least + gap, 0);
  for (const [id, { least }] of shown) {
    if (taken <= width) break;
    out.push(id);
    taken -= least + gap;
  }
  return out;
}

export const rightAligned = new Set(['pixels', 'bytes']);

export const columns = column.columns([
  column.accessor((r) => urgency.indexOf(shownState(r)), {
    id: 'state',
    header: 'State',
    sortFn: 'basic',
    cell: ({ row }) => <State name={shownState(row.original)} candidates={row.original.candidates} />,
  }),
  column.accessor('name', {
    header: 'File',
    sortFn: 'alphanumeric',
    cell: ({ getValue }) => <MidCut text={getValue()} className="mono text-[11.5px]" />,
  }),
  column.accessor('role', {
    header: 'Role',
    sortFn: 'alphanumeric',
    cell: ({ getValue }) => <span className="truncate text-soft">{getValue()}</span>,
  }),
  column.accessor((r) => r.usedBy[0]?.material ?? '', {
    id: 'usedBy',
    header: 'Used by',
    sortFn: 'alphanumeric',
    cell: ({ row }) => <UsedBy uses={row.original.usedBy} />,
  }),
  column.accessor((r) => (r.width ?? 0) * (r.height ?? 0), {
    id: 'pixels',
    header: 'Pixels',
    sortFn: 'basic',
    cell: ({ row: { original: r } }) => (
      <Figure known={r.width != null} text={r.kind === 'image' ? pixels(r.width, r.height) : ''} />
    ),
  }),
  column.accessor((r) => r.bytes ?? -1, {
    id: 'bytes',
    header: 'Size',
    sortFn: 'basic',
    cell: ({ row: { original: r } }) => <Figure known={r.bytes != null} text={bytes(r.bytes)} />,
  }),
  column.accessor('folder', {
    header: 'Written in',
    sortFn: 'alphanumeric',
    cell: ({ row: { original: r } }) => (
      <MidCut
        text={r.folder}
        title={r.written}
        className={`mono text-[11.5px] text-quiet ${r.state === 'present' || r.state === 'embedded' ? '' : 'differs'}`}
      />
    ),
  }),
  column.accessor((r) => r.answer ?? '', {
    id: 'answer',
    header: 'Answers in',
    sortFn: 'alphanumeric',
    cell: ({ getValue }) => <MidCut text={getValue()} className="mono text-[11.5px] text-quiet" />,
  }),
  column.accessor((r) => flagWords(r.flags), {
    id: 'flags',
    header: 'Flags',
    sortFn: 'alphanumeric',
    cell: ({ getValue }) => <span className="truncate text-[11.5px] text-soft">{getValue()}</span>,
  }),
]);

function UsedBy({ uses }: { uses: ReferenceItem['usedBy'] }) {
  const names = [...new Set(uses.map((u) => u.material || u.input))];
  return (
    <span className="truncate" title={uses.map((u) => [u.material, u.input].filter(Boolean).join(', ')).join('\n')}>
      {names[0]}
      {names.length > 1 && ` + ${names.length - 1}`}
    </span>
  );
}

const Figure = ({ known, text }: { known: boolean; text: string }) => (
  <span className={`mono block text-right text-[11.5px] ${known ? 'text-soft' : 'text-quiet'}`}>{text}</span>
);

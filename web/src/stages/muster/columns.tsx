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

/** Width of each column as a grid track. */
export const tracks: Record<string, string> = {
  state: '132px',
  name: 'minmax(200px,1.6fr)',
  role: '112px',
  usedBy: 'minmax(112px,.9fr)',
  pixels: '98px',
  bytes: '64px',
  folder: 'minmax(124px,.8fr)',
  answer: 'minmax(110px,.8fr)',
  flags: 'minmax(110px,.8fr)',
};

/** Least width of each column, and which ones give way first where there is little room. */
const least: [id: string, pixels: number][] = [
  ['bytes', 64],
  ['pixels', 98],
  ['role', 112],
  ['folder', 124],
  // Hidden unless somebody chose them.
  ['answer', 110],
  ['flags', 110],
  ['usedBy', 112],
  ['name', 200],
  ['state', 132],
];

/** The columns that do not fit into that width, beside those that are hidden anyway. */
export function crowdedOut(width: number, hidden: readonly string[]): string[] {
  const out: string[] = [];
  const shown = least.filter(([id]) => !hidden.includes(id));
  let taken = 14 + shown.reduce((sum, [, pixels]) => sum + pixels + 8, 0);
  for (const [id, pixels] of shown) {
    if (taken <= width) break;
    out.push(id);
    taken -= pixels + 8;
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

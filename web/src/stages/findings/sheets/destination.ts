/** A destination as its file has it; what the form does not show is kept as it is. */
export type Draft = Record<string, unknown>;

export interface Field {
  key: string;
  label: string;
  kind: 'text' | 'list' | 'number' | 'flag';
  unit?: string;
}

export const fields: Field[] = [
  { key: 'name', label: 'Name', kind: 'text' },
  { key: 'description', label: 'What it is', kind: 'text' },
  { key: 'models', label: 'Shading models', kind: 'list' },
  { key: 'features', label: 'Features', kind: 'list' },
  { key: 'alphaModes', label: 'Alpha modes', kind: 'list' },
  { key: 'imageFormats', label: 'Image formats', kind: 'list' },
  { key: 'texturesPerMaterial', label: 'Images of a material', kind: 'number' },
  { key: 'largestSide', label: 'Largest side', kind: 'number', unit: 'px' },
  { key: 'mostBits', label: 'Bits per channel', kind: 'number', unit: 'bit' },
  { key: 'uvSets', label: 'UV sets', kind: 'number' },
  { key: 'warnTriangles', label: 'Triangles, warn from', kind: 'number' },
  { key: 'mostTriangles', label: 'Triangles, at most', kind: 'number' },
  { key: 'fileBytes', label: 'A file, at most', kind: 'number', unit: 'B' },
  { key: 'packageBytes', label: 'All files, at most', kind: 'number', unit: 'B' },
  { key: 'metresPerUnit', label: 'A unit is', kind: 'number', unit: 'm' },
  { key: 'upAxis', label: 'Up axis', kind: 'text' },
  { key: 'normalConvention', label: 'Normals', kind: 'text' },
  { key: 'colourManagement', label: 'Colours', kind: 'text' },
  { key: 'colourSpaces', label: 'Spaces of images', kind: 'list' },
  { key: 'powerOfTwo', label: 'Sides are powers of two', kind: 'flag' },
  { key: 'square', label: 'Images are square', kind: 'flag' },
  { key: 'udim', label: 'Tiled images', kind: 'flag' },
  { key: 'vertexColours', label: 'Vertex colours', kind: 'flag' },
];

/** What stands in a field. */
export function shown(draft: Draft, field: Field): string {
  const value = draft[field.key];
  return Array.isArray(value)
    ? value.join(', ')
    : typeof value === 'string' || typeof value === 'number'
      ? String(value)
      : '';
}

/** The draft with another text in a field; an empty one takes the limit away. */
export function changed(draft: Draft, field: Field, text: string): Draft {
  const words = text
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean);
  if (field.kind === 'list') return { ...draft, [field.key]: words };
  if (text.trim() === '') return Object.fromEntries(Object.entries(draft).filter(([key]) => key !== field.key));
  return { ...draft, [field.key]: field.kind === 'number' ? Number(text) : text };
}

import { expect, it } from 'vitest';
import { filesOf } from './upload';

/** Entries as a browser gives them for a drop; a folder gives its entries in parts. */
const fileEntry = (name: string) => ({
  isFile: true,
  name,
  file: (done: (f: File) => void) => done(new File(['x'], name)),
});
const folderEntry = (name: string, children: unknown[]) => ({
  isFile: false,
  name,
  createReader: () => {
    const parts = [children.slice(0, 2), children.slice(2), []];
    return { readEntries: (done: (part: unknown[]) => void) => done(parts.shift() ?? []) };
  },
});
const transfer = (...entries: unknown[]) =>
  ({
    items: entries.map((entry) => ({
      webkitGetAsEntry: () => (entry instanceof File ? null : entry),
      getAsFile: () => (entry instanceof File ? entry : null),
    })),
  }) as unknown as DataTransfer;

it('walks a dropped folder to its last part and names each file by its path', async () => {
  const dropped = transfer(
    folderEntry('set', [
      fileEntry('set.gltf'),
      folderEntry('tex', [fileEntry('a.png'), fileEntry('b.png'), fileEntry('c.png')]),
      fileEntry('set.bin'),
    ]),
    fileEntry('readme.txt'),
    new File(['x'], 'pasted.png'),
    null,
  );
  const found = await filesOf(dropped);
  expect(found.map((f) => f.path)).toEqual([
    'set/set.gltf',
    'set/tex/a.png',
    'set/tex/b.png',
    'set/tex/c.png',
    'set/set.bin',
    'readme.txt',
    'pasted.png',
  ]);
});

import { Refusal, titleOf } from './client';

/** A file to send, with its path below what was dropped. */
export interface Dropped {
  path: string;
  file: File;
}

/**
 * Sends files as one delivery; `onProgress` gets the part that is through, 0 to 1.
 * @param picked The scene that textures without any scene are for.
 * @param version The file that is another version of that scene.
 */
export function upload(
  files: Dropped[],
  picked: string | undefined,
  version: string | undefined,
  onProgress: (part: number) => void,
  stop: AbortSignal,
): Promise<void> {
  const form = new FormData();
  // A field's name may hold a path; a file's name may not in every browser.
  for (const { path, file } of files) form.append(encodeURIComponent(path), file, 'file');
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const query = picked
      ? `?${new URLSearchParams({ picked, ...(version !== undefined && { of: picked, file: version }) })}`
      : '';
    request.open('POST', `/api/arrivals/upload${query}`);
    request.responseType = 'json';
    request.upload.onprogress = (e) => onProgress(e.total > 0 ? e.loaded / e.total : 0);
    request.onload = () =>
      request.status === 200
        ? resolve()
        : reject(new Refusal(titleOf(request.response) ?? `The server answered with status ${request.status}.`));
    request.onerror = () => reject(new Refusal('The upload broke off; nothing was kept. Drop it again.'));
    request.onabort = () => resolve();
    stop.addEventListener('abort', () => request.abort());
    request.send(form);
  });
}

/** Everything in a drop: files, and folders with all that is in them. */
export async function filesOf(transfer: DataTransfer): Promise<Dropped[]> {
  // The items are gone after the first wait, so all are asked first. What has no entry may still be a file.
  const items = Array.from(transfer.items, (item) => item.webkitGetAsEntry() ?? item.getAsFile());
  const found: Dropped[] = [];
  for (const item of items) {
    if (item instanceof File) found.push({ path: item.name, file: item });
    else if (item) await walk(item, '', found);
  }
  return found;
}

async function walk(entry: FileSystemEntry, above: string, found: Dropped[]): Promise<void> {
  const path = above + entry.name;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    found.push({ path, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A reader gives its entries in parts, and an empty part at the end.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) return;
    for (const child of part) await walk(child, `${path}/`, found);
  }
}

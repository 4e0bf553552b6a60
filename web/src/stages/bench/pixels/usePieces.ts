import { useEffect, useState } from 'react';
import { pieceSide, type Piece } from './view';

/** Fetches the pieces in view, each once. Another object is given whenever one has come. */
export function usePieces(address: string, pieces: Piece[]): { of: (key: string) => ImageBitmap | undefined } {
  const [store] = useState(() => new Pieces());
  const [come, setCome] = useState({ of: (key: string) => store.get(key) });
  useEffect(() => {
    store.want(address, pieces, () => setCome({ of: (key) => store.get(key) }));
  }, [store, address, pieces]);
  useEffect(() => () => store.forget(), [store]);
  return come;
}

/** Pieces that are kept: what is scrolled back to is there again. */
const most = 400;

class Pieces {
  private readonly kept = new Map<string, ImageBitmap>();
  private readonly asked = new Set<string>();
  private address = '';

  get = (key: string) => this.kept.get(key);

  want(address: string, pieces: Piece[], onCome: () => void) {
    if (address !== this.address) this.forget();
    this.address = address;
    for (const p of pieces) if (!this.asked.has(p.key)) void this.fetch(p, onCome);
  }

  forget() {
    this.kept.forEach((b) => b.close());
    this.kept.clear();
    this.asked.clear();
  }

  private async fetch(p: Piece, onCome: () => void) {
    const address = this.address;
    this.asked.add(p.key);
    try {
      const answer = await fetch(`${address}&x=${p.left}&y=${p.top}&side=${pieceSide}&step=${p.step}`);
      if (!answer.ok) throw new Error(answer.statusText);
      const bitmap = await createImageBitmap(await answer.blob());
      // Another channel may be wanted by now.
      if (address !== this.address) return bitmap.close();
      this.kept.set(p.key, bitmap);
      this.drop();
      onCome();
    } catch {
      this.asked.delete(p.key);
    }
  }

  private drop() {
    for (const key of [...this.kept.keys()].slice(0, Math.max(0, this.kept.size - most))) {
      this.kept.get(key)?.close();
      this.kept.delete(key);
      this.asked.delete(key);
    }
  }
}

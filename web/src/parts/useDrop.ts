import { useEffect, useState } from 'react';
import { filesOf, type Dropped } from '../api/upload';

/** Takes whatever is dropped anywhere in the window; true while something hovers over it. */
export function useDrop(onFiles: (files: Dropped[]) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const onOver = (e: DragEvent) => {
      if (!e.dataTransfer?.types.includes('Files')) return;
      e.preventDefault();
      setOver(true);
    };
    const onLeave = (e: DragEvent) => e.relatedTarget === null && setOver(false);
    const onDrop = (e: DragEvent) => {
      if (!e.dataTransfer) return;
      e.preventDefault();
      setOver(false);
      void filesOf(e.dataTransfer).then(onFiles);
    };
    window.addEventListener('dragover', onOver);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('drop', onDrop);
    };
  }, [onFiles]);
  return over;
}

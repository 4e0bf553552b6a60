import { useCallback, useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';

/** Whoever holds an arrow key down moves on thirty times a second; the address follows when they rest. */
const rest = 400;

/**
 * A word that is kept in the page's address: what is picked is there again after a refresh, and in a link. It adds no step to the
 * way back, and nothing is drawn anew for it.
 */
export function useInAddress(name: string): [string | undefined, (value: string | undefined) => void] {
  const { search } = useLocation();
  const [value, setValue] = useState(() => new URLSearchParams(search).get(name) ?? undefined);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const set = useCallback(
    (to: string | undefined) => {
      setValue(to);
      clearTimeout(timer.current);
      const here = window.location.pathname;
      timer.current = setTimeout(() => {
        // Whoever has walked on meanwhile takes nothing of it along.
        if (window.location.pathname !== here) return;
        const next = new URLSearchParams(window.location.search);
        if (to === undefined) next.delete(name);
        else next.set(name, to);
        const words = next.toString();
        window.history.replaceState(window.history.state, '', words === '' ? here : `${here}?${words}`);
      }, rest);
    },
    [name],
  );
  return [value, set];
}

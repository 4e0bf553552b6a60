import { useCallback, useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';

/** Whoever holds an arrow key down moves on thirty times a second; the address follows when they rest. */
const rest = 400;

/**
 * A word that is kept in the page's address: what is picked is there again after a refresh, and in a link. It adds no step to the
 * way back.
 */
export function useInAddress(name: string): [string | undefined, (value: string | undefined) => void] {
  const { search } = useLocation();
  const navigate = useNavigate();
  const [value, setValue] = useState(() => new URLSearchParams(search).get(name) ?? undefined);
  // Several words are kept by several of these: each starts from the address as it stands when it writes.
  const now = useRef(search);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    now.current = search;
  }, [search]);
  useEffect(() => () => clearTimeout(timer.current), []);
  const set = useCallback(
    (to: string | undefined) => {
      setValue(to);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => {
        const next = new URLSearchParams(now.current);
        if (to === undefined) next.delete(name);
        else next.set(name, to);
        void navigate({ search: next.toString() }, { replace: true });
      }, rest);
    },
    [name, navigate],
  );
  return [value, set];
}

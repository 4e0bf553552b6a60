import { useHotkeys } from 'react-hotkeys-hook';
import { useSettings } from '../state/settings';

/**
 * A single-key shortcut. A key has one meaning in the whole product; it sleeps while text is typed and can be turned
 * off in the list of keys. On a slider, or one of several choices, whose arrows are their own, keys without arrows go on
 * working.
 */
export function useKey(key: string, act: () => void, enabled = true) {
  const on = useSettings((s) => s.keys);
  useHotkeys(
    key,
    (event) => {
      event.preventDefault();
      act();
    },
    {
      enabled: enabled && on,
      useKey: true,
      ignoreModifiers: false,
      enableOnFormTags: /left|right|up|down/.test(key) ? false : ['slider', 'radio'],
    },
    [act],
  );
}

/** Space, where it does not press the button that has the focus. */
export function useSpace(act: () => void, enabled = true, key: 'space' | 'shift+space' = 'space') {
  const on = useSettings((s) => s.keys);
  useHotkeys(
    key,
    (event) => {
      if (event.target instanceof HTMLElement && event.target.closest('button, a, input, [role="dialog"]')) return;
      event.preventDefault();
      act();
    },
    { enabled: enabled && on },
    [act],
  );
}

/** Enter, where it does not press what has the focus. */
export function useEnter(act: () => void, enabled = true) {
  const on = useSettings((s) => s.keys);
  useHotkeys(
    'enter',
    (event) => {
      if (
        event.target instanceof HTMLElement &&
        event.target.closest('button, a, input, [role^="menu"], [role="dialog"]')
      )
        return;
      act();
    },
    { enabled: enabled && on },
    [act],
  );
}

/** Keys of every screen, for the list that `?` opens. */
export const commonKeys: [string, string][] = [
  ['[ and ]', 'walk the route'],
  ['/', 'find in this stage'],
  ['L', 'ledger'],
  ['U', 'undo the last entry'],
  ['P', 'preview: open the ledger at the pending entries'],
  ['Shift P', 'apply what is pending'],
  ['Esc', 'step out'],
  ['?', 'the keys of this screen'],
];

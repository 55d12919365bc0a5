import { useEffect, useRef, useSyncExternalStore } from "react";

const SWITCH = "bare keys";
const changed = new EventTarget();

/** Whether letters and signs act without Ctrl; whoever speaks to the computer switches them off (WCAG 2.2, 2.1.4). */
export const useBareKeys = (): [boolean, (on: boolean) => void] => [
  useSyncExternalStore(
    (read) => {
      changed.addEventListener("changed", read);
      return () => changed.removeEventListener("changed", read);
    },
    () => bareKeys(),
  ),
  (on) => {
    window.localStorage.setItem(SWITCH, on ? "on" : "off");
    changed.dispatchEvent(new Event("changed"));
  },
];

export const bareKeys = (): boolean => window.localStorage.getItem(SWITCH) !== "off";

/** Whether a key was pressed where a letter is typed or a control waits for its own keys. */
const taken = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest(
    "input, textarea, select, button, a, summary, [contenteditable], [role=dialog], [role=combobox]",
  ) !== null;

/**
 * Keys that act on the whole page: "Control+k" from anywhere, a bare sign such as "/" only where nothing is typed and
 * no control has the focus.
 */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const bare = !(event.ctrlKey || event.metaKey || event.altKey);
      const name = bare ? event.key : `Control+${event.key}`;
      const act = latest.current[name];
      if (act && !event.altKey && (!bare || (bareKeys() && !taken(event.target)))) {
        event.preventDefault();
        act();
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, []);
}

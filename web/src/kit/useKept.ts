import { useEffect, useRef, useState } from "react";

/** So long after the last key what is typed is kept in this window. */
const KEPT_AFTER = 300;

/**
 * Something that lasts in this window under a name until it is forgotten, or only as long as it is shown. The name stays
 * as it is: whoever shows another record gives what holds it another key.
 */
export function useKept<T>(name: string | undefined) {
  // What another build kept may have another shape.
  const key = name && `${name} ${import.meta.env.VITE_BUILD}`;
  const [value, setValue] = useState<T | undefined>(() => (key ? read(key) : undefined));
  const unwritten = useRef<() => void>(undefined);
  useEffect(() => {
    if (!key) {
      return;
    }
    const write = () => {
      unwritten.current = undefined;
      if (value === undefined) {
        window.sessionStorage.removeItem(key);
      } else {
        window.sessionStorage.setItem(key, JSON.stringify(value));
      }
    };
    unwritten.current = write;
    const timer = setTimeout(write, value === undefined ? 0 : KEPT_AFTER);
    return () => clearTimeout(timer);
  }, [key, value]);
  useEffect(() => {
    const flush = () => unwritten.current?.();
    window.addEventListener("pagehide", flush);
    return () => {
      window.removeEventListener("pagehide", flush);
      flush();
    };
  }, []);
  const forget = () => {
    setValue(undefined);
    unwritten.current = undefined;
    if (key) {
      window.sessionStorage.removeItem(key);
    }
  };
  return [value, setValue, forget] as const;
}

/**
 * What is typed in a form that makes something new. Whoever leaves it half done, or whose phone closes the page, finds
 * it as it was; what nobody touched is as it would be by now.
 */
export function useDraft<T extends object>(keptAs: string, untouched: T) {
  const [touched, setTouched, forget] = useKept<Partial<T>>(keptAs);
  const over = (some: Partial<T> | undefined): T => ({ ...untouched, ...some });
  return {
    draft: over(touched),
    change: (changed: Partial<T> | ((now: T) => Partial<T>)) =>
      setTouched((now) => ({ ...now, ...(typeof changed === "function" ? changed(over(now)) : changed) })),
    /** It is done, or given up. */
    forget,
  };
}

function read<T>(key: string): T | undefined {
  try {
    return JSON.parse(window.sessionStorage.getItem(key) ?? "null") ?? undefined;
  } catch {
    window.sessionStorage.removeItem(key);
    return undefined;
  }
}

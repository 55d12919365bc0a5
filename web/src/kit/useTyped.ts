import { useEffect, useRef, useState } from "react";

/** A record's fields as a form holds them, with the version that they are of. */
type Stored<T> = { version: number; draft: T };

/** What is typed, over which version, and what stood there when typing began. */
type Typed<T> = Stored<T> & { base: T };

/** A field that somebody else stored in another way while it was open here. */
export type Difference<T> = { field: keyof T & string; mine: T[keyof T]; theirs: T[keyof T] };

/** So long after the last key what is typed is kept in this window. */
const KEPT_AFTER = 300;

/**
 * What is typed over a stored record that others may change meanwhile. Until something is typed the form shows what
 * is stored, as it changes; from then on nothing of it is torn away, and what others stored since is told field by
 * field.
 *
 * @param keptAs under which name it is kept in this window until it is saved or given up, so that whoever leaves for
 *     another caller finds it again; none for a form that is open only while it is looked at
 */
export function useTyped<T extends object>(stored: Stored<T>, keptAs?: string) {
  const [typed, setTyped] = useKept<Typed<T>>(keptAs);
  const differences = typed ? fields(typed.base, stored.draft) : [];
  return {
    draft: typed?.draft ?? stored.draft,
    // Nothing that is open here was changed, so what is typed is as if typed over the newest version.
    version: typed && differences.length > 0 ? typed.version : stored.version,
    dirty: typed !== undefined,
    overtaken: differences.map(
      (field): Difference<T> => ({
        field,
        mine: (typed?.draft ?? stored.draft)[field],
        theirs: stored.draft[field],
      }),
    ),
    change: (draft: T) =>
      setTyped({ version: typed?.version ?? stored.version, base: typed?.base ?? stored.draft, draft }),
    /** Takes theirs wherever nothing was typed here, and keeps what was. */
    keepMine: () =>
      typed && setTyped({ version: stored.version, base: stored.draft, draft: merge(typed, stored.draft) }),
    forget: () => setTyped(undefined),
  };
}

function fields<T extends object>(before: T, after: T): (keyof T & string)[] {
  return (Object.keys(after) as (keyof T & string)[]).filter((field) => !same(before[field], after[field]));
}

function same(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}

function merge<T extends object>({ base, draft }: Typed<T>, theirs: T): T {
  const mine = fields(base, draft).map((field) => [field, draft[field]]);
  return { ...theirs, ...Object.fromEntries(mine) };
}

/** Something that lasts in this window under a name, or only as long as it is shown. */
function useKept<T>(name: string | undefined) {
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
  return [value, setValue] as const;
}

function read<T>(key: string): T | undefined {
  try {
    return JSON.parse(window.sessionStorage.getItem(key) ?? "null") ?? undefined;
  } catch {
    window.sessionStorage.removeItem(key);
    return undefined;
  }
}

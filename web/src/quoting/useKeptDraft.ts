import { useEffect, useState } from "react";

/** What is typed, and the version of the record that it was typed over. */
type Kept<T> = { version: number; draft: T };

/**
 * Keeps what is typed over a stored record in this window until it is saved or given up: whoever leaves for another
 * caller finds it again, and a colleague who saves the same record meanwhile does not take it away.
 */
export function useKeptDraft<T>(record: string, stored: Kept<T>) {
  // What another build kept may have another shape.
  const name = `${record} ${import.meta.env.VITE_BUILD}`;
  const [kept, setKept] = useState<Kept<T> | undefined>(() => read(name));
  useEffect(() => {
    if (kept) {
      window.sessionStorage.setItem(name, JSON.stringify(kept));
    } else {
      window.sessionStorage.removeItem(name);
    }
  }, [name, kept]);
  const { version, draft } = kept ?? stored;
  return {
    draft,
    version,
    dirty: kept !== undefined,
    /** Somebody else saved the record since typing began. */
    overtaken: kept !== undefined && kept.version !== stored.version,
    change: (typed: T) => setKept({ version, draft: typed }),
    keepMine: () => setKept({ version: stored.version, draft }),
    forget: () => setKept(undefined),
  };
}

function read<T>(name: string): Kept<T> | undefined {
  try {
    return JSON.parse(window.sessionStorage.getItem(name) ?? "null") ?? undefined;
  } catch {
    window.sessionStorage.removeItem(name);
    return undefined;
  }
}

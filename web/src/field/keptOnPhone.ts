import { openDB } from "idb";
import { useSyncExternalStore } from "react";

/** What waits on the phone; its count goes on with everything that is kept, and is the order in which it is sent. */
type Waits = { count: number; personId: number };

/** A store on the phone in which something of one kind waits until the server has it; all pages of the browser share it. */
export function keptOnPhone<Kept extends Waits>(name: string, store: string) {
  const database = openDB(name, 1, {
    upgrade: (made) => {
      made.createObjectStore(store, { keyPath: "count", autoIncrement: true });
    },
  });
  // Whoever keeps nothing, because the phone does not let them, is told when they keep something.
  database.catch(() => undefined);

  let kept: Kept[] = [];
  const readers = new Set<() => void>();
  const others = new BroadcastChannel(name);
  others.onmessage = () => void read();

  function show(now: Kept[]): Kept[] {
    kept = now;
    for (const tell of readers) {
      tell();
    }
    return kept;
  }

  const read = async (): Promise<Kept[]> => show((await (await database).getAll(store)) as Kept[]);

  /** Shows what was just written without reading everything anew; a phone is slow, and a tap does not wait. */
  function changed(gone: Kept[], come: Kept[] = []): void {
    const counts = new Set([...gone, ...come].map(({ count }) => count));
    show([...kept.filter(({ count }) => !counts.has(count)), ...come].sort((a, b) => a.count - b.count));
    others.postMessage("changed");
  }

  void read().catch(() => undefined);

  return {
    /** It is written down before the answer. Fails where the phone has no room or does not let us. */
    keep: async (one: Omit<Kept, "count">): Promise<Kept> => {
      const count = await (await database).add(store, one);
      void navigator.storage?.persist?.();
      const made = { ...one, count } as Kept;
      changed([], [made]);
      return made;
    },
    /** Keeps it as it is by now. */
    keepAs: async (one: Kept): Promise<void> => {
      await (await database).put(store, one);
      changed([], [one]);
    },
    /** The server has them, or nobody wants them any more. */
    forget: async (...ones: Kept[]): Promise<void> => {
      const written = (await database).transaction(store, "readwrite");
      await Promise.all([...ones.map(({ count }) => written.store.delete(count)), written.done]);
      changed(ones);
    },
    /** What is kept of somebody, as far as this page knows by now. */
    known: (personId: number): Kept[] => kept.filter((one) => one.personId === personId),
    /** What is kept of somebody, read anew. */
    list: async (personId: number): Promise<Kept[]> =>
      (await read()).filter((one) => one.personId === personId),
    /** What is kept of everybody who signs in on this phone. */
    useKept: (): Kept[] =>
      useSyncExternalStore(
        (tell) => {
          readers.add(tell);
          return () => readers.delete(tell);
        },
        () => kept,
      ),
  };
}

import { useSyncExternalStore } from "react";

/** What was done or refused, and how it can be undone. */
export type Said = {
  text: string;
  /** It was not done. */
  refused?: boolean;
  /** It stands at the fields as well, so that it need not stay. */
  atFields?: boolean;
  /** Takes it back; nothing where there is no way back. */
  undo?: { label: string; run: () => void };
};

let latest: (Said & { at: number }) | undefined;
let count = 0;
const readers = new Set<() => void>();

/** Tells what was done or refused: shown, and read out by a screen reader. Nothing takes away what was said last. */
export function say(said: Said | undefined) {
  count += 1;
  latest = said && { ...said, at: count };
  for (const read of readers) {
    read();
  }
}

/** What was said last, until it is over. */
export const useSaid = () =>
  useSyncExternalStore(
    (read) => {
      readers.add(read);
      return () => readers.delete(read);
    },
    () => latest,
  );

/** How much of what this page sends of itself is on its way, and who waits for its end. */
let going = 0;
const waiting = new Set<() => void>();

/** Whether this page sends a lot of its own. */
export const isSending = (): boolean => going > 0;

/** Sends a lot, one after the other; that each of it changed something need not be read anew at once. */
export async function ownWork<T>(send: () => Promise<T>): Promise<T> {
  going++;
  try {
    return await send();
  } finally {
    going--;
    if (going === 0) {
      for (const tell of waiting) {
        tell();
      }
    }
  }
}

/** Tells whenever this page has sent all of its own, until it is told to stop. */
export function onSent(tell: () => void): () => void {
  waiting.add(tell);
  return () => waiting.delete(tell);
}

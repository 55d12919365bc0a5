import { type DBSchema, openDB } from "idb";
import { useSyncExternalStore } from "react";
import type { LateActForm } from "../api/generated/schema";

export type Step = NonNullable<LateActForm["step"]>;

/** What somebody has tapped, as it is kept on the phone until the server has it. */
export type KeptAct = {
  /** Counts on with every tap on this phone, and is the order in which they are sent. */
  count: number;
  key: string;
  personId: number;
  step: Step;
  visitId?: number;
  form: Record<string, unknown>;
  /** How a person would call what the form only numbers, such as a part. */
  name?: string;
  /** By the phone's clock. */
  tappedAt: string;
  /** The page that took the tap, and how long it had been open: a clock that is put right meanwhile shows by it. */
  page: string;
  openFor: number;
  /** Whether it could not be sent when it was tapped. */
  late: boolean;
  /** Why the server would not even put it before the office. */
  refusal?: string;
};

interface Kept extends DBSchema {
  acts: { key: number; value: Omit<KeptAct, "count"> & { count?: number } };
}

const database = openDB<Kept>("outbox", 1, {
  upgrade: (made) => {
    made.createObjectStore("acts", { keyPath: "count", autoIncrement: true });
  },
});
// Whoever keeps nothing, because the phone does not let them, is told when they tap.
database.catch(() => undefined);

export const PAGE: string = crypto.randomUUID();

/** Whether it waits to be sent: it could not be when it was tapped, or its page was closed before the answer came. */
export const isWaiting = (act: KeptAct): boolean => !act.refusal && (act.late || act.page !== PAGE);

const NONE: KeptAct[] = [];
let kept: KeptAct[] = NONE;
const readers = new Set<() => void>();
const others = new BroadcastChannel("outbox");
others.onmessage = () => void read();

/** What is kept, in the order in which it was tapped. */
async function read(): Promise<KeptAct[]> {
  kept = (await (await database).getAll("acts")) as KeptAct[];
  for (const tell of readers) {
    tell();
  }
  return kept;
}

async function changed(): Promise<void> {
  await read();
  others.postMessage("changed");
}

/** Keeps what was tapped; it is written down before the answer. Fails where the phone has no room or does not let us. */
export async function keep(act: Omit<KeptAct, "count">): Promise<KeptAct> {
  const count = await (await database).add("acts", act);
  void navigator.storage?.persist?.();
  await changed();
  return { ...act, count };
}

/** Keeps it as it is by now. */
export async function keepAs(act: KeptAct): Promise<void> {
  await (await database).put("acts", act);
  await changed();
}

/** The server has it, or nobody wants it any more. */
export async function forget(act: KeptAct): Promise<void> {
  await (await database).delete("acts", act.count);
  await changed();
}

/** What is kept of somebody, read anew. */
export const listKept = async (personId: number): Promise<KeptAct[]> =>
  (await read()).filter((act) => act.personId === personId);

/** What is kept of everybody who signs in on this phone. */
export const useKept = (): KeptAct[] =>
  useSyncExternalStore(
    (tell) => {
      readers.add(tell);
      return () => readers.delete(tell);
    },
    () => kept,
  );

void read().catch(() => undefined);

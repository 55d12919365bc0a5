import { type DBSchema, openDB } from "idb";
import { useSyncExternalStore } from "react";

/** A photo that was taken and the server does not have yet. */
export type KeptPhoto = {
  count: number;
  key: string;
  personId: number;
  visitId: number;
  picture: Blob;
  words: string;
  partWantedId?: number;
  /** By the phone's clock. */
  takenAt: string;
  /** Whether it could not be sent when it was taken. */
  late: boolean;
  /** Why the server does not take it. */
  refusal?: string;
};

interface Kept extends DBSchema {
  photos: { key: number; value: Omit<KeptPhoto, "count"> & { count?: number } };
}

const database = openDB<Kept>("photos", 1, {
  upgrade: (made) => {
    made.createObjectStore("photos", { keyPath: "count", autoIncrement: true });
  },
});
// Whoever keeps nothing, because the phone does not let them, is told when they take one.
database.catch(() => undefined);

const NONE: KeptPhoto[] = [];
let kept: KeptPhoto[] = NONE;
const readers = new Set<() => void>();
const others = new BroadcastChannel("photos");
others.onmessage = () => void read();

async function read(): Promise<KeptPhoto[]> {
  kept = (await (await database).getAll("photos")) as KeptPhoto[];
  for (const tell of readers) {
    tell();
  }
  return kept;
}

async function changed(): Promise<void> {
  await read();
  others.postMessage("changed");
}

/** Keeps a photo on the phone until it is sent. Fails where the phone has no room or does not let us. */
export async function keepPhoto(photo: Omit<KeptPhoto, "count">): Promise<void> {
  await (await database).add("photos", photo);
  void navigator.storage?.persist?.();
  await changed();
}

/** Keeps it as it is by now. */
export async function keepPhotoAs(photo: KeptPhoto): Promise<void> {
  await (await database).put("photos", photo);
  await changed();
}

/** The server has it, or nobody wants it any more. */
export async function forgetPhoto(photo: KeptPhoto): Promise<void> {
  await (await database).delete("photos", photo.count);
  await changed();
}

/** What is kept of somebody, read anew. */
export const listKeptPhotos = async (personId: number): Promise<KeptPhoto[]> =>
  (await read()).filter((photo) => photo.personId === personId);

/** What is kept of everybody who signs in on this phone. */
export const useKeptPhotos = (): KeptPhoto[] =>
  useSyncExternalStore(
    (tell) => {
      readers.add(tell);
      return () => readers.delete(tell);
    },
    () => kept,
  );

void read().catch(() => undefined);

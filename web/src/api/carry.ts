import { createAsyncStoragePersister } from "@tanstack/query-async-storage-persister";
import type { Query, QueryClient } from "@tanstack/react-query";
import type { PersistQueryClientOptions } from "@tanstack/react-query-persist-client";
import { openDB } from "idb";
import type { Session } from "./generated/schema";

/** So long what was read stays for when there is no network, in milliseconds, looked at or not. */
const CARRIED = 3 * 24 * 60 * 60 * 1000;
const STORE = "read";

const database = openDB("carried", 1, { upgrade: (made) => void made.createObjectStore(STORE) });
// A browser that keeps nothing, as in a private window, reads everything anew.
database.catch(() => undefined);

const storage = {
  getItem: async (key: string): Promise<string | null> =>
    (await database.then((open) => open.get(STORE, key)).catch(() => null)) ?? null,
  setItem: (key: string, value: string) =>
    database.then((open) => open.put(STORE, value, key)).catch(() => undefined),
  removeItem: (key: string) => database.then((open) => open.delete(STORE, key)).catch(() => undefined),
};

const persister = createAsyncStoragePersister({ storage });

// Whoever signs out leaves nothing, also by what is still to be written.
let leaving = false;

/** What technicians have along: their session, stops and parts. Nothing of the office is kept in a browser. */
function isCarried(query: Query): boolean {
  if (leaving) {
    return false;
  }
  const [what] = query.queryKey;
  return (
    query.state.data !== undefined &&
    (what === "pocket" ||
      what === "carried" ||
      (what === "session" && (query.state.data as Session).person?.role === "technician"))
  );
}

export const carry: Omit<PersistQueryClientOptions, "queryClient"> = {
  persister,
  maxAge: CARRIED,
  buster: import.meta.env.VITE_BUILD ?? "",
  dehydrateOptions: { shouldDehydrateQuery: isCarried },
};

/** Nothing of what is carried along is dropped because nobody looks at it for a while. */
export function keepCarried(queryClient: QueryClient) {
  for (const what of ["session", "pocket", "carried"]) {
    queryClient.setQueryDefaults([what], { gcTime: CARRIED });
  }
}

const AT_ONCE = "carried:";

/** Carries something small along that is written at once, and not a second later with all the rest. */
export function carryAtOnce(name: string, what: unknown): void {
  try {
    window.localStorage.setItem(AT_ONCE + name, JSON.stringify(what));
  } catch {
    // A browser that keeps nothing has it for as long as its page is open.
  }
}

/** What was carried along by this name; nothing where nothing was. */
export const carriedAtOnce = <T>(name: string): T | undefined =>
  JSON.parse(window.localStorage.getItem(AT_ONCE + name) ?? "null") ?? undefined;

/** Forgets what is carried along: whoever signs in next starts with nothing of it. */
export async function leaveBehind(): Promise<void> {
  leaving = true;
  for (const key of Object.keys(window.localStorage).filter((each) => each.startsWith(AT_ONCE))) {
    window.localStorage.removeItem(key);
  }
  await persister.removeClient();
  await window.caches?.delete("photos");
}

/**
 * Lets the pages open without a network. A newer build takes over when the program is opened, and not while somebody
 * works on the older one.
 */
export async function openWithoutNetwork(): Promise<void> {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) {
    return;
  }
  const registered = await navigator.serviceWorker.register("/sw.js");
  registered.waiting?.postMessage({ type: "SKIP_WAITING" });
}

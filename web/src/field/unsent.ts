import { answer, client } from "../api/client";
import { listKept } from "./outbox";
import { listKeptPhotos } from "./photoBox";

/** What this phone has told the office last that it still has to send, by the person. */
const TOLD = "unsent told of ";

const PATIENCE = 4_000;

/** So much goes with the next few requests anyway. */
const SOON_SENT = 2;

/** One telling after the other, each of what is so by then: the last one is right. */
let telling: Promise<void> = Promise.resolve();

/**
 * Tells the office how much of which visits is still on this phone, where it is more than the next moments bring, and
 * again once all of it is sent: nobody is to check a visit of which half is missing. Where it does not get through, the
 * next one does.
 */
export function tellUnsent(personId: number): void {
  telling = telling.then(() => tell(personId)).catch(() => undefined);
}

async function tell(personId: number): Promise<void> {
  const things = [...(await listKept(personId)), ...(await listKeptPhotos(personId))].filter(
    ({ visitId, refusal }) => visitId !== undefined && !refusal,
  );
  const told = window.localStorage.getItem(TOLD + personId);
  if (things.length <= SOON_SENT && !told) {
    return;
  }
  const byVisit = new Map<number, number>();
  for (const { visitId = 0 } of things) {
    byVisit.set(visitId, (byVisit.get(visitId) ?? 0) + 1);
  }
  const visits = [...byVisit].map(([visitId, count]) => ({ visitId, things: count }));
  await answer(client.PUT("/api/pocket/unsent", { body: { visits }, signal: AbortSignal.timeout(PATIENCE) }));
  if (visits.length > 0) {
    window.localStorage.setItem(TOLD + personId, "yes");
  } else {
    window.localStorage.removeItem(TOLD + personId);
  }
}

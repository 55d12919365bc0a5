import type { QueryClient } from "@tanstack/react-query";
import { answer, client, Problem, withKey } from "../api/client";
import type { CameIn } from "../api/generated/schema";
import { say } from "../kit/useSaid";
import { ownWork } from "../live/ownWork";
import { forget, isWaiting, type KeptAct, keepAs, knownKept, listKept, type NotedTime, PAGE } from "./outbox";
import { tellUnsent } from "./unsent";

/** So long a tap waits for its answer before it counts as sent without one. */
const PATIENCE = 4_000;
/** Among the server's refusals those after which the same may be sent again as it is. */
const PASSING = new Set([401, 403, 408, 425, 429]);

/** Whether the last that was sent got no answer. */
let unanswered = false;

/** Whether a tap is not even tried: others wait, and the line was gone a moment ago. */
export const isHopeless = (personId: number): boolean => unanswered && knownKept(personId).some(isWaiting);

/** Ends what hangs on a line that was gone when the phone has found another. */
let found = new AbortController();
window.addEventListener("online", () => {
  found.abort();
  found = new AbortController();
});

/** So long something that is sent waits for its answer, or until the phone has found a network again. */
export const patience = (milliseconds: number): AbortSignal =>
  AbortSignal.any([AbortSignal.timeout(milliseconds), found.signal]);

/** When it is sent, by the phone's clock as it was at the tap, however it was set since. */
function sentAt(act: KeptAct): string {
  const waited = Date.now() - Date.parse(act.tappedAt);
  const shown = act.page === PAGE ? performance.now() - act.openFor : 0;
  return new Date(Date.parse(act.tappedAt) + Math.max(waited, shown, 0)).toISOString();
}

/** Sends it to its own address, and gives the page as it is then. */
function sendNow(act: KeptAct): Promise<unknown> {
  const params = { path: { id: act.visitId ?? 0 }, ...withKey(act.key) };
  const signal = patience(PATIENCE);
  const when = { tappedAt: act.tappedAt, sentAt: sentAt(act) };
  const timed = { params, body: { ...act.form, ...when }, signal };
  // biome-ignore lint/suspicious/noExplicitAny: each step's form was made for its own address
  const plain = { params, body: act.form as any, signal };
  switch (act.step) {
    case "drive":
      return answer(client.POST("/api/pocket/visits/{id}/drive", timed));
    case "arrive":
      return answer(client.POST("/api/pocket/visits/{id}/arrive", timed));
    case "start_work":
      return answer(client.POST("/api/pocket/visits/{id}/start-work", timed));
    case "pause":
      return answer(client.POST("/api/pocket/visits/{id}/pause", timed));
    case "finish":
      return answer(client.POST("/api/pocket/visits/{id}/finish", timed));
    case "start_clock":
      return answer(client.POST("/api/pocket/clock", { ...timed, params: withKey(act.key) }));
    case "stop_clock":
      return answer(client.POST("/api/pocket/clock/stop", { ...timed, params: withKey(act.key) }));
    case "use_part":
      return answer(client.POST("/api/pocket/visits/{id}/parts", plain));
    case "put_part_back": {
      const visitPartId = Number(act.form.visitPartId);
      return answer(
        client.DELETE("/api/pocket/visits/{id}/parts/{visitPartId}", {
          params: { path: { id: act.visitId ?? 0, visitPartId } },
          signal,
        }),
      );
    }
    case "note_serial_number":
      return answer(client.POST("/api/pocket/visits/{id}/serial-numbers", plain));
    case "note_unlisted_part":
      return answer(client.POST("/api/pocket/visits/{id}/unlisted-parts", plain));
    case "want_part":
      return answer(client.POST("/api/pocket/visits/{id}/missing-parts", plain));
    case "answer_checklist":
      return answer(client.POST("/api/pocket/visits/{id}/checklist-answers", plain));
    case "tick_line":
      return answer(client.POST("/api/pocket/visits/{id}/lines-done", timed));
    case "send_message":
      return answer(client.POST("/api/pocket/visits/{id}/messages", plain));
    case "accept_visit":
      return answer(client.POST("/api/pocket/visits/{id}/accept", { ...plain, body: {} }));
    case "tell_late":
      return answer(client.POST("/api/pocket/visits/{id}/late", plain));
    case "tell_price":
      return answer(client.POST("/api/pocket/visits/{id}/told-price", plain));
    case "take_money":
      return answer(client.POST("/api/pocket/visits/{id}/money", timed));
    case "sign_week_off": {
      const monday = String(act.form.monday);
      return answer(
        client.POST("/api/pocket/weeks/{monday}/sign-off", { params: { path: { monday } }, signal }),
      );
    }
    case "hand_back":
      return answer(client.POST("/api/pocket/visits/{id}/hand-back", plain));
    case "note_time": {
      const { timeEntryId, day, time: body } = act.form as NotedTime;
      return answer(
        timeEntryId
          ? client.PUT("/api/pocket/time-entries/{id}", {
              params: { path: { id: timeEntryId }, ...withKey(act.key) },
              body,
              signal,
            })
          : client.POST("/api/pocket/days/{day}/time-entries", {
              params: { path: { day }, ...withKey(act.key) },
              body,
              signal,
            }),
      );
    }
  }
}

/** So many taps are sent together, with so many letters of what was typed. */
const MOST_TAPS = 25;
const MOST_LETTERS = 200_000;

/** Of what waits, that which is sent together next; at least one. */
function together(waiting: KeptAct[], most: number): KeptAct[] {
  let letters = 0;
  const room = waiting.slice(0, most).filter(({ form }) => {
    letters += JSON.stringify(form).length;
    return letters <= MOST_LETTERS;
  });
  return room.length > 0 ? room : waiting.slice(0, 1);
}

const sendLate = (acts: KeptAct[]) =>
  answer(
    client.POST("/api/pocket/late-acts", {
      body: {
        acts: acts.map((act) => ({
          key: act.key,
          step: act.step,
          visitId: act.visitId,
          tappedAt: act.tappedAt,
          sentAt: sentAt(act),
          form: act.form,
        })),
      },
      signal: patience(5 * PATIENCE),
    }),
  );

/** Whether the server will not take it, however often it is sent. */
export const isRefusal = (problem: unknown): problem is Problem =>
  problem instanceof Problem && problem.status >= 400 && problem.status < 500 && !PASSING.has(problem.status);

/** What came of a tap that was sent at once: the page as it is then, or nothing where it waits on the phone. */
export type Sent = { page: unknown } | undefined;

/** One page of a browser sends of a kind at a time, in the order in which it was kept. */
export const inTurn = async <T>(kind: "outbox" | "photos", work: () => Promise<T>): Promise<T> =>
  navigator.locks ? await navigator.locks.request(kind, work) : await work();

/** The same for all of a kind that waits. */
export const allInTurn = <T>(kind: "outbox" | "photos", work: () => Promise<T>): Promise<T> =>
  inTurn(kind, () => ownWork(work));

/** Sends what the phone could not keep, at once or not at all. */
export async function sendUnkept(act: Omit<KeptAct, "count">): Promise<Sent> {
  try {
    return { page: await sendNow({ ...act, count: 0 }) };
  } catch (problem) {
    if (isRefusal(problem)) {
      throw problem;
    }
    throw new Problem(0, {
      detail:
        "There is no network, and this phone has no room to keep it. Write it down and tell the office, or try again.",
    });
  }
}

/**
 * Sends what was just tapped, unless something that was tapped before it still waits; then it waits too. A refusal is
 * thrown, and nothing of it is kept: whoever tapped sees it and has what they typed before them.
 */
export const sendFresh = (act: KeptAct): Promise<Sent> =>
  inTurn("outbox", async () => {
    const before = (await listKept(act.personId)).filter(
      ({ count, refusal }) => count < act.count && !refusal,
    );
    if (before.length > 0) {
      await keepAs({ ...act, late: true });
      return undefined;
    }
    try {
      const page = await sendNow(act);
      unanswered = false;
      await forget(act);
      return { page };
    } catch (problem) {
      if (isRefusal(problem)) {
        await forget(act);
        throw problem;
      }
      unanswered = true;
      await keepAs({ ...act, late: true });
      return undefined;
    }
  });

/**
 * Sends what waits, in its order, until the network is gone again; without finishes, what comes before the first of
 * them. Gives whether all of that is sent.
 */
export const sendWaiting = (
  personId: number,
  queryClient: QueryClient,
  { finishes = true } = {},
): Promise<boolean> =>
  allInTurn("outbox", async () => {
    let waiting = (await listKept(personId)).filter(isWaiting);
    const finish = waiting.findIndex(({ step }) => step === "finish");
    if (!finishes && finish >= 0) {
      waiting = waiting.slice(0, finish);
    }
    tellUnsent(personId);
    let most = MOST_TAPS;
    let beforeOffice = 0;
    let sent = 0;
    while (waiting.length > 0) {
      const acts = together(waiting, most);
      let came: CameIn[];
      try {
        came = await sendLate(acts);
        unanswered = false;
      } catch (problem) {
        if (!isRefusal(problem)) {
          unanswered = true;
          break;
        }
        if (acts.length > 1) {
          // One of them is to blame; the others do not wait for it.
          most = 1;
          continue;
        }
        came = [{ state: null, detail: problem.message }];
      }
      const taken = acts.filter((_, at) => came[at]?.state);
      await forget(...taken);
      for (const [at, act] of acts.entries()) {
        if (!taken.includes(act)) {
          await keepAs({ ...act, refusal: came[at]?.detail ?? "" });
        }
      }
      sent += taken.length;
      beforeOffice += came.filter(({ state }) => state === "waiting").length;
      waiting = waiting.slice(acts.length);
    }
    tellUnsent(personId);
    if (sent > 0) {
      await queryClient.invalidateQueries({ queryKey: ["pocket"] });
      say({
        text: `Sent what was tapped without a network: ${sent}.${
          beforeOffice > 0 ? ` The office is asked about ${beforeOffice} of it.` : ""
        }`,
      });
    }
    return waiting.length === 0;
  });

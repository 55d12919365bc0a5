import { useQueryClient } from "@tanstack/react-query";
import type { Problem } from "../api/client";
import type { Day, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../kit/useAct";
import { useNoticed } from "../kit/useNoticed";
import type { Said } from "../kit/useSaid";
import { useSession } from "../people/SessionGate";
import { type KeptAct, keep, PAGE, type Step } from "./outbox";
import { isHopeless, type Sent, sendFresh, sendUnkept } from "./sending";

/** What is tapped, where, and what was typed with it. */
export type Tapped = {
  step: Step;
  visitId?: number;
  form: Record<string, unknown>;
  name?: string;
};

const KEPT = "Kept on this phone. It is sent as soon as there is a network.";

/**
 * Something that a technician taps. It is written down on the phone first and sent at once where there is a network;
 * where there is none it waits, and the page goes on as if it were sent. Several taps at once are sent one after the
 * other, each by itself; one that is refused stops those after it.
 */
export function useTap(options: {
  /** The page goes on: it was taken, or it waits. */
  done?: () => void;
  refused?: (problem: Problem) => void;
  /** One of several was taken, or waits; those after it may still be refused. */
  each?: (tapped: Tapped) => void;
  said: string | ((tapped: Tapped) => Said);
}) {
  const { person } = useSession();
  const queryClient = useQueryClient();
  const act = useAct(
    async (all: Tapped[], key): Promise<Sent> => {
      let sent: Sent;
      for (const [at, tapped] of all.entries()) {
        sent = await send(tapped, at === 0 ? key : `${key}-${at}`);
        options.each?.(tapped);
      }
      return sent;
    },
    {
      shown: true,
      changes: (sent) => sent !== undefined,
      done: options.done,
      refused: options.refused,
      said: (sent, [tapped]) =>
        sent === undefined || !tapped
          ? { text: KEPT }
          : typeof options.said === "string"
            ? { text: options.said }
            : options.said(tapped),
    },
  );

  const running = useNoticed(act.running);

  async function send(tapped: Tapped, key: string): Promise<Sent> {
    const made: Omit<KeptAct, "count"> = {
      key,
      personId: person.id,
      step: tapped.step,
      visitId: tapped.visitId,
      form: tapped.form,
      name: tapped.name,
      tappedAt: new Date().toISOString(),
      page: PAGE,
      openFor: performance.now(),
      late: isHopeless(person.id),
    };
    const act = await keep(made).catch(() => undefined);
    if (act?.late) {
      return undefined;
    }
    const sent = await (act ? sendFresh(act) : sendUnkept(made));
    if (sent) {
      await showPage(sent.page);
    }
    return sent;
  }

  async function showPage(page: unknown) {
    const answered = page as Partial<PocketVisit & Day> | undefined;
    // What is still on its way was read before.
    await queryClient.cancelQueries({ queryKey: ["pocket"] });
    if (answered?.visitId) {
      queryClient.setQueryData(queries.pocketVisit(answered.visitId).queryKey, page as PocketVisit);
    } else if (answered?.stops) {
      queryClient.setQueryData(queries.pocketDay.queryKey, page as Day);
    }
  }

  return { ...act, running, run: (tapped: Tapped | Tapped[]) => act.run([tapped].flat()) };
}

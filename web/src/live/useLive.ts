import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { queries } from "../api/queries";
import { follow, type Notice } from "./follow";
import { isSending, onSent } from "./ownWork";

/** Changes that come one upon the other are read together. */
const TOGETHER = 150;

/** Where changes do not end, what is on screen is read no more often than this. */
const BETWEEN = 1_000;

/** The same while this page sends a lot of its own: what it hears of is mostly what it has just sent. */
const BETWEEN_WHILE_SENDING = 10_000;

/** What is read of settings and people, which changes seldom. */
const SETTINGS = ["company", "holiday", "response_terms", "price_list"];

/** Keeps what is on screen as others leave it, and the day as it is at the company. */
export function useLive(day: string, told: string) {
  const queryClient = useQueryClient();
  // A later mark knows nothing of what was read before it.
  const [mark] = useState(told);
  useEffect(() => {
    const due = new Set<QueryKey>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    let lastRead = -BETWEEN;

    function readAnew() {
      timer = undefined;
      lastRead = performance.now();
      // What nobody looks at is read when somebody does.
      const refetchType = document.visibilityState === "visible" ? "active" : "none";
      for (const queryKey of due) {
        void queryClient.invalidateQueries({ queryKey, refetchType });
      }
      due.clear();
    }

    function readSoon() {
      const between = isSending() ? BETWEEN_WHILE_SENDING : BETWEEN;
      timer = setTimeout(readAnew, Math.max(TOGETHER, lastRead + between - performance.now()));
    }

    const stopWaiting = onSent(() => {
      if (due.size > 0) {
        clearTimeout(timer);
        readSoon();
      }
    });
    const stop = follow(mark, (notice) => {
      for (const queryKey of stale(notice, day)) {
        due.add(queryKey);
      }
      if (due.size > 0 && timer === undefined) {
        readSoon();
      }
    });
    return () => {
      stop();
      stopWaiting();
      clearTimeout(timer);
    };
  }, [queryClient, day, mark]);
}

const WORK: QueryKey[] = [["work"], ["pocket"], queries.mailStandIn.queryKey];
const ALL: QueryKey[] = [...WORK, queries.session.queryKey, queries.choices.queryKey];
const IMPORTS: QueryKey[] = [["work", "import"]];

/** The keys of all that a notice makes stale. */
function stale(notice: Notice, day: string): QueryKey[] {
  switch (notice.what) {
    case "everything":
      return ALL;
    case "refused":
      // The first reading that is refused asks to sign in again, above what is typed.
      return WORK;
    case "day":
      return notice.day === day ? [] : ALL;
    case "changed":
      if (notice.kinds.every((kind) => kind === "import")) {
        return IMPORTS;
      }
      return notice.kinds.some((kind) => SETTINGS.includes(kind)) ? ALL : WORK;
  }
}

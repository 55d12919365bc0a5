import type { AskedChecklist, Day, PocketVisit } from "../api/generated/schema";
import { isWaiting, type KeptAct } from "./outbox";

const minutesBetween = (from: string, to: string) =>
  Math.max(0, Math.floor(Date.parse(to) / 60_000) - Math.floor(Date.parse(from) / 60_000));

const STARTS = new Set(["drive", "start_work", "start_clock"]);

/** A visit as it stands once what waits on the phone is taken; the server says in the end. */
export const visitAsTapped = (visit: PocketVisit, kept: KeptAct[]): PocketVisit =>
  kept.filter(isWaiting).reduce(after, visit);

function after(visit: PocketVisit, act: KeptAct): PocketVisit {
  if (act.visitId !== visit.visitId) {
    return STARTS.has(act.step) || act.step === "stop_clock" ? ended(visit, act.tappedAt) : visit;
  }
  switch (act.step) {
    case "drive":
      return { ...ended(visit, act.tappedAt), state: "driving", runningSince: act.tappedAt, elsewhere: null };
    case "arrive":
      return { ...ended(visit, act.tappedAt), state: "on_site" };
    case "start_work": {
      // Whoever works already and names no line goes on as they are.
      if (visit.runningSince && visit.state === "on_site" && !act.form.lineId) {
        return visit;
      }
      const before = ended(visit, act.tappedAt);
      return {
        ...before,
        work: before.work.map((line) => ({ ...line, onClock: line.lineId === act.form.lineId })),
        state: "on_site",
        runningSince: act.tappedAt,
        elsewhere: null,
      };
    }
    case "pause":
      return ended(visit, act.tappedAt);
    case "finish":
      return visit.responsible
        ? {
            ...ended(visit, act.tappedAt),
            state: "finished",
            outcome: (act.form.outcome as PocketVisit["outcome"]) ?? "done",
            reason: String(act.form.reason ?? ""),
            note: String(act.form.note ?? ""),
          }
        : ended(visit, act.tappedAt);
    case "accept_visit":
      return { ...visit, accepted: true };
    case "use_part":
      return {
        ...visit,
        parts: [
          ...visit.parts,
          {
            id: -act.count,
            name: act.name ?? "part",
            unit: "",
            quantity: Number(act.form.quantity),
            unrecorded: 0,
          },
        ],
      };
    case "note_serial_number":
      return {
        ...visit,
        parts: visit.parts.map((part) =>
          part.id === act.form.visitPartId ? { ...part, unrecorded: part.unrecorded - 1 } : part,
        ),
      };
    case "put_part_back":
      return { ...visit, parts: visit.parts.filter(({ id }) => id !== act.form.visitPartId) };
    case "note_unlisted_part":
      return {
        ...visit,
        unlistedParts: [
          ...visit.unlistedParts,
          { id: -act.count, name: String(act.form.name), quantity: Number(act.form.quantity) },
        ],
      };
    case "want_part":
      return {
        ...visit,
        missingParts: [
          ...visit.missingParts,
          {
            id: -act.count,
            version: 0,
            name: act.name ?? String(act.form.words ?? ""),
            quantity: Number(act.form.quantity),
            urgent: act.form.urgent === true,
            state: "wanted",
          },
        ],
      };
    case "send_message":
      return {
        ...visit,
        messages: [
          ...visit.messages,
          {
            id: -act.count,
            text: String(act.form.text ?? ""),
            sentAt: act.tappedAt,
            sentBy: "",
            from: "site",
            to: act.form.to === "customer" ? "customer" : "office",
          },
        ],
      };
    case "tick_line": {
      const done = act.form.done === true;
      const ticked = visit.work.find(({ lineId }) => lineId === act.form.lineId);
      // Whoever works on it by their clock works on from then, on no line.
      const before =
        done && ticked?.onClock ? { ...ended(visit, act.tappedAt), runningSince: act.tappedAt } : visit;
      return {
        ...before,
        work: before.work.map((line) =>
          line.lineId === act.form.lineId
            ? { ...line, doneBy: done ? "" : null, doneAt: done ? act.tappedAt : null }
            : line,
        ),
      };
    }
    case "answer_checklist":
      return { ...visit, checklists: visit.checklists.map((checklist) => answered(checklist, act)) };
    default:
      return visit;
  }
}

function answered(checklist: AskedChecklist, act: KeptAct): AskedChecklist {
  const given = {
    id: 0,
    version: 0,
    answer: String(act.form.answer ?? ""),
    doesNotApply: act.form.doesNotApply === true,
    outOfLimits: act.form.word !== "" && act.form.doesNotApply !== true,
    word: String(act.form.word ?? ""),
    answeredAt: act.tappedAt,
    answeredBy: "",
  };
  return {
    ...checklist,
    items: checklist.items.map((item) => (item.id === act.form.checklistItemId ? { ...item, given } : item)),
  };
}

/** Whatever ran on the visit has ended. */
function ended(visit: PocketVisit, at: string): PocketVisit {
  if (!visit.runningSince) {
    return visit;
  }
  const minutes = minutesBetween(visit.runningSince, at);
  return visit.state === "driving"
    ? { ...visit, driveMinutes: visit.driveMinutes + minutes, runningSince: null }
    : {
        ...visit,
        labourMinutes: visit.labourMinutes + minutes,
        runningSince: null,
        work: visit.work.map((line) =>
          line.onClock ? { ...line, onClock: false, workedMinutes: line.workedMinutes + minutes } : line,
        ),
      };
}

/** The day as it stands once what waits on the phone is taken. */
export function dayAsTapped(day: Day, kept: KeptAct[]): Day {
  let { clock, stops } = day;
  for (const act of kept.filter(isWaiting)) {
    clock = clockAfter(clock, act);
    stops = stops
      .filter((stop) => act.step !== "hand_back" || stop.visitId !== act.visitId)
      .map((stop) => (stop.visitId === act.visitId ? { ...stop, state: stateAfter(stop.state, act) } : stop));
  }
  return { ...day, clock, stops };
}

function stateAfter(state: Day["stops"][number]["state"], act: KeptAct) {
  switch (act.step) {
    case "drive":
      return "driving" as const;
    case "arrive":
    case "start_work":
      return "on_site" as const;
    case "finish":
      return "finished" as const;
    default:
      return state;
  }
}

function clockAfter(clock: Day["clock"], act: KeptAct): Day["clock"] {
  if (act.step === "start_clock") {
    return {
      kind: act.form.kind as NonNullable<Day["clock"]>["kind"],
      work: String(act.form.work ?? ""),
      startedAt: act.tappedAt,
      since: act.tappedAt,
      forgotten: false,
    };
  }
  return STARTS.has(act.step) || act.step === "stop_clock" ? null : clock;
}

import type { LateActForm, OwnTimeForm } from "../api/generated/schema";
import { keptOnPhone } from "./keptOnPhone";

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

/** Own time that is put right, or that nobody clocked. */
export type NotedTime = {
  /** The entry that is put right; nothing for time that nobody clocked. */
  timeEntryId?: number;
  day: string;
  time: OwnTimeForm;
};

export const PAGE: string = crypto.randomUUID();

/** Whether it waits to be sent: it could not be when it was tapped, or its page was closed before the answer came. */
export const isWaiting = (act: KeptAct): boolean => !act.refusal && (act.late || act.page !== PAGE);

/** What was tapped, in the order in which it was. */
export const {
  keep,
  keepAs,
  forget,
  known: knownKept,
  list: listKept,
  useKept,
} = keptOnPhone<KeptAct>("outbox", "acts");

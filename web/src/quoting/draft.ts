import type { QuoteSheet, TypedLine, TypedStage } from "../api/generated/schema";
import { fullDay } from "../format";

export type Promised = QuoteSheet["promise"];

/** What a quote promises of its price, for ourselves. */
export const PROMISES: Record<Promised, string> = {
  fixed_price: "Fixed price",
  estimate: "Estimate",
  not_more_than: "Not more than",
};

export const LABOUR: TypedLine = { category: "labour", time: "1:00", rateClass: "normal" };
export const DRIVE: TypedLine = {
  category: "drive",
  time: "0:30",
  miles: "10",
};

/** A quote as it is being typed; nothing of it is lost while the server refuses it. */
export type Draft = {
  siteId: number | undefined;
  site: string | undefined;
  equipmentId: number | undefined;
  equipment: string | undefined;
  kindOfJobId: number | undefined;
  title: string;
  promise: Promised | undefined;
  validUntil: string;
  notes: string;
  ownNotes: string;
  discount: string;
  deposit: string;
  depositDueDays: string;
  stages: TypedStage[];
  lines: TypedLine[];
};

export const blank: Draft = {
  siteId: undefined,
  site: undefined,
  equipmentId: undefined,
  equipment: undefined,
  kindOfJobId: undefined,
  title: "",
  promise: undefined,
  validUntil: "",
  notes: "",
  ownNotes: "",
  discount: "",
  deposit: "",
  depositDueDays: "",
  stages: [],
  lines: [LABOUR, DRIVE],
};

/** A stored quote as it is typed over. */
export function draftOf(quote: QuoteSheet): Draft {
  return {
    siteId: quote.siteId,
    site: `${quote.customer}, ${quote.site}`,
    equipmentId: quote.equipmentId ?? undefined,
    equipment: quote.equipment ?? undefined,
    kindOfJobId: quote.kindOfJobId,
    title: quote.title,
    promise: quote.promise,
    validUntil: fullDay(quote.validUntil),
    notes: quote.notes,
    ownNotes: quote.ownNotes,
    discount: quote.discount,
    deposit: quote.deposit,
    depositDueDays: String(quote.depositDueDays),
    stages: quote.stages,
    lines: quote.lines,
  };
}

/** Whether a line is part of the total as things stand. */
export const counts = (line: TypedLine): boolean =>
  (line.choice ?? "included") === "included" || line.taken === true;

/** What a drive's price is for, where it is not for the whole drive. */
export const PER: Record<string, string> = { per_mile: "/mi", per_hour: "/h" };

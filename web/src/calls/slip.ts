import type { CallerCard, CallForm, CallOf, EquipmentOf, SiteOf, VisitOf } from "../api/generated/schema";

/** How pressing a job is. */
export type Priority = NonNullable<NonNullable<CallForm["job"]>["priority"]>;

/** A call as it is being written down; every part of it is typed once and goes where it is needed. */
export type Slip = {
  about: string;
  /** "site-8" or "equipment-91"; empty when it is about neither. */
  place: string;
  step: "about" | "what" | "talk" | "solved" | "job" | "to_do" | "last";
  talk: string;
  faultCode: string | undefined;
  solution: string;
  kindOfJobId: number | undefined;
  priority: Priority;
  expected: string;
  forPersonId: number | undefined;
  due: string;
  /** The job that this one is to be like. */
  like: { jobId: number; title: string } | undefined;
};

export const emptySlip: Slip = {
  about: "",
  place: "",
  step: "about",
  talk: "",
  faultCode: undefined,
  solution: "",
  kindOfJobId: undefined,
  priority: "normal",
  expected: "",
  forPersonId: undefined,
  due: "",
  like: undefined,
};

/** The site and the piece that a slip's place names. */
export function placeOf(card: CallerCard, place: string): { site?: SiteOf; piece?: EquipmentOf } {
  const [kind, id] = place.split("-");
  for (const site of card.sites) {
    if (kind === "site" && site.id === Number(id)) {
      return { site };
    }
    const piece = kind === "equipment" ? site.equipment.find((entry) => entry.id === Number(id)) : undefined;
    if (piece) {
      return { site, piece };
    }
  }
  return {};
}

/** The only place there is to choose, if there is only one. */
export function onlyPlace(card: CallerCard): string {
  const site = card.sites.length === 1 ? card.sites[0] : undefined;
  const standing = site?.equipment.filter((piece) => piece.removedOn == null) ?? [];
  const piece = standing.length === 1 ? standing[0] : undefined;
  return piece ? `equipment-${piece.id}` : site && standing.length === 0 ? `site-${site.id}` : "";
}

/** What the caller said, without the title of an earlier job that was put before it. */
const ownWords = ({ about, like }: Slip): string =>
  like && about.startsWith(like.title) ? about.slice(like.title.length).replace(/^: /, "") : about;

/** The slip of a job like one before: that one's title, then what was said this time. */
export const sameAgain = (slip: Slip, visit: VisitOf): Slip => ({
  ...slip,
  about: [visit.title, ownWords(slip)].filter(Boolean).join(": "),
  place: visit.equipmentId ? `equipment-${visit.equipmentId}` : `site-${visit.siteId}`,
  kindOfJobId: visit.kindOfJobId,
  like: { jobId: visit.jobId, title: visit.title },
  step: "what",
});

/** What is sent when the call ends this way. */
export function callForm(
  card: CallerCard,
  slip: Slip,
  outcome: CallOf["outcome"],
  kindOfJobId?: number,
): CallForm {
  const { site, piece } = placeOf(card, slip.place);
  return {
    customerId: card.id,
    siteId: site?.id,
    equipmentId: piece?.id,
    about: slip.about,
    talk: slip.talk,
    faultCode: slip.faultCode,
    outcome,
    solution: outcome === "solved" ? slip.solution : undefined,
    job: outcome === "job" ? { kindOfJobId, priority: slip.priority, expected: slip.expected } : undefined,
    quote: outcome === "quote" ? { kindOfJobId, likeJobId: slip.like?.jobId } : undefined,
    toDo: outcome === "to_do" ? { forPersonId: slip.forPersonId, due: slip.due } : undefined,
  };
}

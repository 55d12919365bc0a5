import { keptOnPhone } from "./keptOnPhone";
import type { Whereabouts } from "./whereabouts";

/** A photo that was taken and the server does not have yet. */
export type KeptPhoto = {
  count: number;
  key: string;
  personId: number;
  visitId: number;
  picture: Blob;
  words: string;
  partWantedId?: number;
  unlistedPartId?: number;
  /** The question of a checklist that it answers. */
  checklistItemId?: number;
  /** By the phone's clock. */
  takenAt: string;
  /** Where it was taken; nothing where nobody asks or the phone does not say. */
  position?: Whereabouts;
  /** Whether it could not be sent when it was taken. */
  late: boolean;
  /** Why the server does not take it. */
  refusal?: string;
};

/** Photos, in the order in which they were taken; taps do not wait for them. */
export const {
  keep: keepPhoto,
  keepAs: keepPhotoAs,
  forget: forgetPhoto,
  list: listKeptPhotos,
  useKept: useKeptPhotos,
} = keptOnPhone<KeptPhoto>("photos", "photos");

import { keptOnPhone } from "./keptOnPhone";

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

import type { QueryClient } from "@tanstack/react-query";
import { answer, client, newKey, withKey } from "../api/client";
import { queries } from "../api/queries";
import { smallPhoto } from "../customers/smallPhoto";
import { forgetPhoto, type KeptPhoto, keepPhoto, keepPhotoAs, listKeptPhotos } from "./photoBox";
import { allInTurn, isRefusal, patience } from "./sending";
import { tellUnsent } from "./unsent";

/** A photo takes longer than a tap, on a poor line much longer. */
const PATIENCE = 60_000;

type Taken = Pick<
  KeptPhoto,
  "personId" | "visitId" | "words" | "partWantedId" | "unlistedPartId" | "checklistItemId" | "position"
>;

/** A picture that is older comes from the phone's album, and was taken elsewhere. */
const JUST_TAKEN = 120_000;

/** Makes photos small and keeps them on the phone, one by one; what it cannot keep is sent at once. */
export async function takePhotos(files: File[], of: Taken): Promise<void> {
  for (const file of files) {
    const photo = {
      ...of,
      position: Date.now() - file.lastModified < JUST_TAKEN ? of.position : undefined,
      key: newKey(),
      picture: await smallPhoto(file),
      takenAt: new Date().toISOString(),
      late: false,
    };
    try {
      await keepPhoto(photo);
    } catch {
      await send({ ...photo, count: 0 });
    }
  }
}

const send = (photo: KeptPhoto) =>
  answer(
    client.POST("/api/pocket/visits/{id}/photos", {
      params: {
        path: { id: photo.visitId },
        query: {
          words: photo.words,
          partWantedId: photo.partWantedId,
          unlistedPartId: photo.unlistedPartId,
          checklistItemId: photo.checklistItemId,
          takenAt: photo.takenAt,
          sentAt: new Date().toISOString(),
          ...photo.position,
        },
        ...withKey(photo.key),
      },
      body: "",
      bodySerializer: () => photo.picture,
      headers: { "Content-Type": photo.picture.type || "image/jpeg" },
      signal: patience(PATIENCE),
    }),
  );

/** So many are on their way at once: while the server looks at one, the line carries the next. */
const AT_ONCE = 2;

/** Sends the photos that are kept, until the network is gone. Gives whether all of them are sent. */
export const sendPhotos = (personId: number, queryClient: QueryClient): Promise<boolean> =>
  allInTurn("photos", async () => {
    const kept = (await listKeptPhotos(personId)).filter((photo) => !photo.refusal);
    tellUnsent(personId);
    const next = kept.values();
    const unsent: KeptPhoto[] = [];
    const sendNext = async () => {
      for (const photo of next) {
        try {
          queryClient.setQueryData(queries.photosOnSite(photo.visitId).queryKey, await send(photo));
          await forgetPhoto(photo);
        } catch (problem) {
          if (!isRefusal(problem)) {
            unsent.push(photo, ...next);
            return;
          }
          await keepPhotoAs({ ...photo, refusal: problem.message });
        }
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, sendNext));
    for (const waits of unsent.filter(({ late }) => !late)) {
      await keepPhotoAs({ ...waits, late: true });
    }
    tellUnsent(personId);
    return unsent.length === 0;
  });

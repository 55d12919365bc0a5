import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect, useState } from "react";
import { answer, client } from "../api/client";
import type { PocketVisit, VisitPhoto } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment } from "../format";
import { useAct } from "../kit/useAct";
import { useSession } from "../people/SessionGate";
import styles from "./Photos.module.css";
import { forgetPhoto, type KeptPhoto, keepPhotoAs, useKeptPhotos } from "./photoBox";
import { sendPhotos, takePhotos } from "./photos";
import { isHopeless } from "./sending";
import { useWhereabouts } from "./whereabouts";

/** Takes several photos at a time; they are kept on the phone until they are sent. */
export function PhotoButton({
  visitId,
  words = "",
  taken,
  partWantedId,
  unlistedPartId,
  checklistItemId,
  label = "Take photos",
  of,
}: {
  visitId: number;
  words?: string;
  /** They are kept. */
  taken?: () => void;
  partWantedId?: number;
  unlistedPartId?: number;
  checklistItemId?: number;
  label?: string;
  /** What it is of, for whoever does not see it. */
  of?: string;
}) {
  const { person } = useSession();
  const { position } = useWhereabouts();
  const queryClient = useQueryClient();
  const take = useAct(
    async (files: File[]) => {
      await takePhotos(files, {
        personId: person.id,
        visitId,
        words,
        partWantedId,
        unlistedPartId,
        checklistItemId,
        position: position(),
      });
      // Where taps wait for a network photos wait for it too.
      if (!isHopeless(person.id)) {
        void sendPhotos(person.id, queryClient);
      }
      return files.length;
    },
    {
      shown: true,
      done: taken,
      said: (count) => ({ text: count === 1 ? "One photo kept." : `${count} photos kept.` }),
    },
  );
  return (
    <label className={`file-button ${styles.take}`} aria-busy={take.running}>
      {take.running ? "Making them small" : label}
      <input
        type="file"
        accept="image/*"
        multiple
        aria-label={of ? `${label}: ${of}` : label}
        className="visually-hidden"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length > 0) {
            take.run(files);
          }
        }}
      />
    </label>
  );
}

/** What was photographed on a visit and at its site before; what is not sent yet says so. */
export function Photos({ visit }: { visit: PocketVisit }) {
  const { data } = useQuery(queries.photosOnSite(visit.visitId));
  const { person } = useSession();
  const kept = useKeptPhotos().filter(
    (photo) => photo.visitId === visit.visitId && photo.personId === person.id,
  );
  const [words, setWords] = useState("");
  const taken = data?.photos ?? [];
  const before = data?.before ?? [];
  const open = visit.state !== "planned";
  if (!open && before.length === 0) {
    return null;
  }
  return (
    <section className="fact" aria-label="Photos">
      <div className="first">
        <span>Photos</span>
        {kept.length > 0 && (
          <span className="needs">
            {kept.length} of {kept.length + taken.length} not sent yet
          </span>
        )}
      </div>
      {(taken.length > 0 || kept.length > 0) && (
        <div className={styles.photos}>
          {taken.map((photo) => (
            <Taken key={photo.id} photo={photo} own={photo.takenBy === person.name} />
          ))}
          {kept.map((photo) => (
            <NotSent key={photo.count} photo={photo} />
          ))}
        </div>
      )}
      {open && (
        <div className={styles.taking}>
          <Input
            className="tall"
            aria-label="What the next photos show"
            placeholder="what they show, if it needs words"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <PhotoButton visitId={visit.visitId} words={words} taken={() => setWords("")} />
        </div>
      )}
      {before.length > 0 && (
        <>
          <p className="soft small">From earlier visits here</p>
          <div className={styles.photos}>
            {before.map((photo) => (
              <Seen key={photo.id} photo={photo} />
            ))}
          </div>
        </>
      )}
    </section>
  );
}

const shown = (photo: VisitPhoto) =>
  [photo.words || "Photo", photo.takenBy, moment(photo.takenAt)].join(", ");

const Seen = ({ photo }: { photo: VisitPhoto }) => (
  <figure>
    <a href={`/api/pocket/photos/${photo.id}`} target="_blank" rel="noreferrer">
      <img src={`/api/pocket/photos/${photo.id}/small`} alt={shown(photo)} />
    </a>
    {photo.words && <figcaption>{photo.words}</figcaption>}
  </figure>
);

function Taken({ photo, own }: { photo: VisitPhoto; own: boolean }) {
  const back = useAct(
    () =>
      answer(
        client.POST("/api/pocket/photos/{id}/remove", {
          params: { path: { id: photo.id } },
          body: { version: photo.version },
        }),
      ),
    {
      said: "The photo is taken off.",
      answers: queries.photosOnSite(photo.visitId).queryKey,
    },
  );
  return (
    <div>
      <Seen photo={photo} />
      {own && (
        <Button
          className="tall"
          aria-label={`Take off ${photo.words || "this photo"}`}
          loading={back.running}
          onClick={() => back.run()}
        >
          Take off
        </Button>
      )}
    </div>
  );
}

function NotSent({ photo }: { photo: KeptPhoto }) {
  const { person } = useSession();
  const queryClient = useQueryClient();
  const [address, setAddress] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: each reading makes it another object, the key stays
  useEffect(() => {
    const made = URL.createObjectURL(photo.picture);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [photo.key]);
  const again = async () => {
    await keepPhotoAs({ ...photo, refusal: undefined });
    await sendPhotos(person.id, queryClient);
  };
  return (
    <div>
      <figure>
        {address && <img src={address} alt={`${photo.words || "Photo"}, not sent yet`} />}
        <figcaption className="needs">{photo.refusal ?? (photo.late ? "waits" : "being sent")}</figcaption>
      </figure>
      {photo.refusal && (
        <>
          <Button className="tall" onClick={() => void again()}>
            Try again
          </Button>
          <Button className="tall" onClick={() => void forgetPhoto(photo)}>
            Drop it
          </Button>
        </>
      )}
    </div>
  );
}

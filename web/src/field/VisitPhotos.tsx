import { answer, client } from "../api/client";
import type { VisitPhoto } from "../api/generated/schema";
import { moment } from "../format";
import { Asking } from "../kit/Asking";
import { useAct } from "../kit/useAct";
import styles from "./VisitPhotos.module.css";

/** What was photographed on a visit, for the office. */
export const VisitPhotos = ({ photos, editable }: { photos: VisitPhoto[]; editable: boolean }) =>
  photos.length > 0 && (
    <div className={styles.photos}>
      {photos.map((photo) => (
        <Photo key={photo.id} photo={photo} editable={editable} />
      ))}
    </div>
  );

function Photo({ photo, editable }: { photo: VisitPhoto; editable: boolean }) {
  const remove = useAct(
    (reason: string) =>
      answer(
        client.POST("/api/visit-photos/{id}/remove", {
          params: { path: { id: photo.id } },
          body: { version: photo.version, reason },
        }),
      ),
    { said: "The photo is taken off." },
  );
  const about = `${photo.takenBy}, ${moment(photo.takenAt)}`;
  return (
    <figure>
      <a href={`/api/visit-photos/${photo.id}`} target="_blank" rel="noreferrer" title={about}>
        <img src={`/api/visit-photos/${photo.id}/small`} alt={`${photo.words || "Photo"}, ${about}`} />
      </a>
      <figcaption>
        {photo.partWantedId && <span className="needs">part wanted </span>}
        {photo.unlistedPartId && <span className="needs">on no price list </span>}
        {photo.away && <span className="needs">{photo.milesFromSite} miles from the site </span>}
        {photo.words}
      </figcaption>
      {editable && (
        <Asking
          plain
          label="Take off…"
          of={photo.words || `photo by ${about}`}
          title="Is this photo to be taken off?"
          question="Why? The reason stays in the history."
          confirm="Take it off"
          run={remove.run}
          running={remove.running}
        />
      )}
    </figure>
  );
}

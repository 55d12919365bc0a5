import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { time } from "../format";
import { useAct } from "../kit/useAct";
import { useSession } from "../people/SessionGate";
import { forget, isWaiting } from "./outbox";
import { sendPhotos } from "./photos";
import { sendWaiting } from "./sending";
import { TAPPED } from "./tapped";
import { useWaiting, useWaitingPhotos } from "./useWaiting";
import styles from "./Waiting.module.css";

/** While something waits it is tried again so often, also where the phone takes the network to be there. */
const TRIED_EVERY = 5_000;

/** Sends what waits as soon as it can, and says plainly what is not sent, and since when. */
export function Waiting() {
  const { person } = useSession();
  const queryClient = useQueryClient();
  const kept = useWaiting();
  const waiting = kept.filter(isWaiting);
  const photos = useWaitingPhotos().filter(({ refusal }) => !refusal);
  const late = photos.filter((photo) => photo.late);
  const some = waiting.length > 0;
  const somePhotos = photos.length > 0;
  const send = useAct(() => sendWaiting(person.id, queryClient), {
    said: (all) => ({ text: all ? "All of it is sent." : "There is no network yet. Nothing is lost." }),
  });
  useEffect(() => {
    if (!some && !somePhotos) {
      return;
    }
    const again = async () => {
      const tapsSent = sendWaiting(person.id, queryClient, { finishes: false });
      const photosSent = sendPhotos(person.id, queryClient);
      const isThere = await tapsSent;
      // Work of some kinds is not finished without a photo.
      await photosSent;
      if (isThere) {
        await sendWaiting(person.id, queryClient);
      }
    };
    void again();
    const timer = setInterval(again, TRIED_EVERY);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [some, somePhotos, person.id, queryClient]);
  if (kept.length === 0 && late.length === 0) {
    return null;
  }
  return (
    <section className={styles.waiting} aria-label="Not sent yet">
      {waiting[0] && (
        <>
          <p role="status">
            <b>
              {waiting.length} {waiting.length === 1 ? "tap waits" : "taps wait"} on this phone
            </b>{" "}
            since {time(clockOf(waiting[0].tappedAt))}. Work on: {waiting.length === 1 ? "it is" : "they are"}{" "}
            sent when there is a network.
          </p>
          <button type="button" className="early tall" aria-busy={send.running} onClick={() => send.run()}>
            Send now
          </button>
        </>
      )}
      {late[0] && (
        <p role="status">
          <b>
            {late.length} {late.length === 1 ? "photo waits" : "photos wait"} on this phone
          </b>{" "}
          since {time(clockOf(late[0].takenAt))}.
        </p>
      )}
      {kept
        .filter(({ refusal }) => refusal)
        .map((act) => (
          <p key={act.count} className="fault">
            {TAPPED[act.step]} at {time(clockOf(act.tappedAt))} was not taken. {act.refusal}{" "}
            <button type="button" className="early tall" onClick={() => void forget(act)}>
              Take it off this phone
            </button>
          </p>
        ))}
    </section>
  );
}

/** A moment as the phone's clock shows it. */
const clockOf = (moment: string) => new Date(moment).toTimeString().slice(0, 5);

import { useSession } from "../people/SessionGate";
import { isWaiting, type KeptAct, useKept } from "./outbox";
import { type KeptPhoto, useKeptPhotos } from "./photoBox";

/** What one has tapped and the server does not have yet. */
export const useWaiting = (): KeptAct[] => {
  const { person } = useSession();
  return useKept().filter((act) => act.personId === person.id && (act.refusal || isWaiting(act)));
};

/** Photos that one has taken and the server does not have yet. */
export const useWaitingPhotos = (): KeptPhoto[] => {
  const { person } = useSession();
  return useKeptPhotos().filter((photo) => photo.personId === person.id);
};

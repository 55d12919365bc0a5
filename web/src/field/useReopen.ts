import { answer, client } from "../api/client";
import { useAct } from "../kit/useAct";

/** Takes the check of a visit back, as long as no document has taken its cost. */
export const useReopen = () =>
  useAct(
    ({ id, version }: { id: number; version: number }) =>
      answer(client.POST("/api/visits/{id}/reopen", { params: { path: { id } }, body: { version } })),
    { said: "The check is taken back." },
  );

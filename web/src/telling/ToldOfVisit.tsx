import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { answer, client } from "../api/client";
import { queries } from "../api/queries";
import { moment, weekday } from "../format";
import { useAct } from "../kit/useAct";
import { between, TOLD, TOLD_BY } from "./words";

/** What the customer was told of a visit last, and how to tell them now. */
export function ToldOfVisit({ visitId, mayTell }: { visitId: number; mayTell: boolean }) {
  const { data } = useQuery(queries.visitMessages(visitId));
  const tell = useAct(
    () => answer(client.POST("/api/visits/{id}/messages", { params: { path: { id: visitId } } })),
    {
      said: ({ told }) => ({
        text: told ? `The customer was told: ${TOLD[told]}.` : "There is nothing new to tell the customer.",
      }),
    },
  );
  const last = data?.messages[0];
  return (
    <>
      {last && (
        <div className="small soft">
          {TOLD[last.kind]} {TOLD_BY[last.toldBy]} {moment(last.toldAt)}: {weekday(last.day)}{" "}
          {between(last.window)}
        </div>
      )}
      {mayTell && (
        <Button size="small" loading={tell.running} onClick={() => tell.run()}>
          Tell the customer
        </Button>
      )}
    </>
  );
}

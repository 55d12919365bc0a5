import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { CustomersPage, Visit, VisitSignature } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment } from "../format";
import { TextField, TickField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";

/** Who signed a visit that is over and how they found it, and the report that they get of it. */
export function Signed({
  jobId,
  visit,
  signature,
  editable,
}: {
  jobId: number;
  visit: Visit;
  signature: VisitSignature | undefined;
  editable: boolean;
}) {
  const over = visit.state === "finished" || visit.state === "checked";
  const { data: page } = useQuery({ ...queries.customersPage(jobId), enabled: over });
  const [sending, setSending] = useState(false);
  if (!over) {
    return null;
  }
  const sent = page?.reports.find((report) => report.visitId === visit.id);
  return (
    <div className="small">
      {signature ? (
        <>
          Signed by {signature.name}
          {signature.rating && `, ${signature.rating} of 5`}
          {signature.ratingWords && `: “${signature.ratingWords}”`}
        </>
      ) : (
        <span className="soft">
          {page?.toSign.includes(visit.id) ? "They are to sign on their own page." : "Nobody signed."}
        </span>
      )}{" "}
      <a href={`/api/visits/${visit.id}/report`} target="_blank" rel="noreferrer">
        Report for the customer
      </a>
      {sent && (
        <span className="soft">
          {" "}
          sent to {sent.toAddress} {sent.withPrices ? "with prices" : ""} on {moment(sent.sentAt)}
        </span>
      )}
      {editable && !sending && (
        <>
          {" · "}
          <Word id={`send-report-${visit.id}`} of={`the report of ${visit.day}`} run={() => setSending(true)}>
            {sent ? "send it again" : "send it"}
          </Word>
        </>
      )}
      {sending && page && <SendReport visitId={visit.id} page={page} close={() => setSending(false)} />}
    </div>
  );
}

function SendReport({ visitId, page, close }: { visitId: number; page: CustomersPage; close: () => void }) {
  const to = page.writtenTo.includes("@") ? page.writtenTo : "";
  const form = useForm({ version: 0, draft: { to, withPrices: false } });
  const send = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/visits/{id}/reports", {
          params: { path: { id: visitId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { said: "The report is on its way.", done: close, refused: form.refused },
  );
  return (
    <InlineForm
      form={form}
      label="Send the report"
      confirm="Send it"
      running={send.running}
      submit={() => send.run(undefined)}
      close={close}
    >
      <TextField form={form} name="to" label="To" width={240} placeholder={page.writtenTo} autoFocus />
      <TickField form={form} name="withPrices" label="with prices" />
    </InlineForm>
  );
}

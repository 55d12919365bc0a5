import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import { queries } from "../api/queries";
import { CustomersLink } from "../kit/CustomersLink";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";

/** The customer's page of a job, on its sheet: whether they have read it, and the way to it. */
export function TheirPage({ jobId, editable }: { jobId: number; editable: boolean }) {
  const { data: page } = useQuery(queries.customersPage(jobId));
  const path = { params: { path: { id: jobId } } };
  const open = useAct(() => answer(client.POST("/api/jobs/{id}/customer-page", path)), {
    said: "The customer has a page. Copy its address, or write to them: the link goes along.",
  });
  const withdraw = useAct(() => answer(client.POST("/api/jobs/{id}/customer-page/withdraw", path)), {
    said: "The link is withdrawn. Whatever is sent next has another one.",
  });
  if (page?.address) {
    return (
      <div className="small">
        <CustomersLink
          address={page.address}
          openedAt={page.openedAt}
          withdraw={editable ? () => withdraw.run() : undefined}
        />
      </div>
    );
  }
  return (
    page &&
    editable && (
      <div className="small">
        <Word run={() => open.run()}>Make the customer's page</Word>
      </div>
    )
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { WorkOrder } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, money } from "../format";
import { Asking } from "../kit/Asking";
import styles from "../kit/Followed.module.css";
import { MoneyField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";
import { useMay } from "../people/useMay";

/** What others were ordered to do for a job, and whose bill is awaited. */
export function WorkOrders({ jobId, open }: { jobId: number; open: boolean }) {
  const { data } = useQuery(queries.workOrders(jobId));
  const mayOrder = useMay("record_work");
  const [ordering, setOrdering] = useState(false);
  return (
    <div className={styles.followed} data-section="work-orders">
      {(data ?? []).map((order) => (
        <div key={order.id} data-work-order={order.id}>
          <b>{order.supplier}</b>: {order.what}
          {order.wantedOn && `, by ${day(order.wantedOn)}`},{" "}
          <span className={order.state === "ordered" ? "needs" : "soft"}>{standing(order)}</span>{" "}
          {mayOrder && order.state === "ordered" && <OrderActs order={order} />}
        </div>
      ))}
      {mayOrder && open && !ordering && (
        <Word id={`work-order-${jobId}`} run={() => setOrdering(true)}>
          Order work from somebody else
        </Word>
      )}
      {ordering && <OrderForm jobId={jobId} close={() => setOrdering(false)} />}
    </div>
  );
}

function standing({ state, expectedMinor, orderedOn, closedOn, billedMinor, reason }: WorkOrder): string {
  switch (state) {
    case "ordered":
      return `bill awaited${expectedMinor == null ? "" : ` of ${money(expectedMinor)}`}, ordered ${day(orderedOn)}`;
    case "billed":
      return `billed ${money(billedMinor ?? 0)} ${day(closedOn ?? orderedOn)}`;
    case "dropped":
      return `no longer wanted ${day(closedOn ?? orderedOn)}, “${reason}”`;
  }
}

function OrderActs({ order }: { order: WorkOrder }) {
  const { id, version, supplier, email, expectedMinor } = order;
  const path = { path: { id } };
  const bill = useAct(
    (cost: string, key) =>
      answer(
        client.POST("/api/work-orders/{id}/bill", {
          params: { ...path, ...withKey(key) },
          body: { version, cost },
        }),
      ),
    { said: `The bill of ${supplier} is on the job.` },
  );
  const drop = useAct(
    (reason: string) =>
      answer(client.POST("/api/work-orders/{id}/drop", { params: path, body: { version, reason } })),
    { said: `No bill of ${supplier} is awaited any more.` },
  );
  const of = `, work order to ${supplier}`;
  return (
    <span className={styles.acts}>
      <Asking
        plain
        label="The bill is here…"
        of={of}
        title={`The bill of ${supplier}`}
        question={`What is it, without VAT?${expectedMinor == null ? "" : ` ${money(expectedMinor)} was expected.`}`}
        confirm="Add to the cost"
        run={bill.run}
        running={bill.running}
      />
      <Asking
        plain
        label="No longer wanted…"
        of={of}
        title={`Is nothing wanted of ${supplier} any more?`}
        question={`Why? The reason stays on the job. ${email ? "They are told by mail that it is off, not why." : "Tell them yourself."}`}
        confirm="No longer wanted"
        run={drop.run}
        running={drop.running}
      />
    </span>
  );
}

const ORDER = { supplier: "", email: "", what: "", expected: "", wantedOn: "" };

function OrderForm({ jobId, close }: { jobId: number; close: () => void }) {
  const form = useForm({ version: 0, draft: ORDER });
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/work-orders", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    {
      done: close,
      refused: form.refused,
      said: () => ({
        text: form.draft.email
          ? `Ordered; the mail to ${form.draft.supplier} is on its way. A to-do reminds you of the bill.`
          : "Ordered. A to-do reminds you of the bill.",
      }),
    },
  );
  return (
    <InlineForm
      form={form}
      label="Order of work"
      confirm={form.draft.email ? "Order and mail" : "Order"}
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
    >
      <TextField form={form} name="supplier" label="Who" needed autoFocus />
      <TextField form={form} name="email" label="Their e-mail, if they are to get it" />
      <TextField form={form} name="what" label="What is to be done" needed />
      <MoneyField form={form} name="expected" label="Their price, without VAT" width={150} />
      <TextField form={form} name="wantedOn" label="Wanted by" width={110} placeholder="fri, 4 dec" />
    </InlineForm>
  );
}

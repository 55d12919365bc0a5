import { useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { answer, client, type Problem, withKey } from "../api/client";
import type { Part, Time, Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../api/useAct";
import { timeOf } from "../format";
import { InlineForm } from "../records/InlineForm";
import { Overtaken } from "../records/Overtaken";
import { useTyped } from "../records/useTyped";
import { PartSelect } from "../stores/PartSelect";

type Entry = Omit<Time, "personId" | "person" | "minutes" | "costMinor" | "corrected">;

/**
 * Corrects a time entry, or adds one that nobody clocked: to a visit, also a helper's, or to somebody's day and no
 * visit. The reason is kept.
 */
export function TimeForm({
  entry,
  visit,
  ofDay,
  close,
}: {
  entry?: Entry;
  visit?: Visit;
  ofDay?: { personId: number; day: string };
  close: () => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const [personId, setPersonId] = useState(visit?.technicianId ?? undefined);
  const typed = useTyped({
    version: entry?.version ?? 0,
    draft: {
      kind: entry?.kind ?? "labour",
      from: entry ? timeOf(entry.from, entry.fromDaysLater) : "",
      to: entry?.to ? timeOf(entry.to, entry.toDaysLater) : "",
      rateClass: (entry && !entry.byTheClock ? entry.rateClass : "") as Time["rateClass"] | "",
      miles: entry && entry.miles > 0 ? String(entry.miles) : "",
      description: entry?.description ?? "",
    },
  });
  const { kind, from, to, rateClass, miles, description } = typed.draft;
  const change = (changed: Partial<typeof typed.draft>) => typed.change({ ...typed.draft, ...changed });
  const [reason, setReason] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const body = {
    ...typed.draft,
    version: typed.version,
    rateClass: rateClass || undefined,
    reason,
  };
  const save = useAct(
    (_: undefined, key) =>
      entry
        ? answer(client.PUT("/api/time-entries/{id}", { params: { path: { id: entry.id } }, body }))
        : ofDay
          ? answer(
              client.POST("/api/people/{id}/days/{day}/time-entries", {
                params: { path: { id: ofDay.personId, day: ofDay.day }, ...withKey(key) },
                body,
              }),
            )
          : answer(
              client.POST("/api/visits/{id}/time-entries", {
                params: { path: { id: visit?.id ?? 0 }, ...withKey(key) },
                body: { ...body, personId },
              }),
            ),
    { done: close, refused: setProblem },
  );
  const remove = useAct(
    () =>
      answer(
        client.POST("/api/time-entries/{id}/remove", {
          params: { path: { id: entry?.id ?? 0 } },
          body: { version: typed.version, reason },
        }),
      ),
    { done: close, refused: setProblem },
  );
  return (
    <InlineForm
      label={entry ? "Correct time" : "Add time"}
      confirm={entry ? "Correct" : "Add"}
      running={save.running}
      problem={problem}
      submit={() => save.run(undefined)}
      close={close}
      extra={entry && <Button onClick={() => remove.run()}>Remove</Button>}
    >
      {!save.running && (
        <Overtaken
          what="this entry"
          typed={typed}
          names={{ rateClass: "Hours", description: "What was done" }}
        />
      )}
      {visit && (
        <label style={{ width: 150 }}>
          Whose
          <Select
            value={personId}
            onChange={setPersonId}
            showSearch={{ optionFilterProp: "label" }}
            options={(choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name }))}
          />
        </label>
      )}
      {!entry && (
        <label style={{ width: 92 }}>
          What
          <Select
            value={kind}
            onChange={(chosen) => change({ kind: chosen })}
            options={[
              { value: "labour", label: "Labour" },
              { value: "drive", label: "Drive" },
            ]}
          />
        </label>
      )}
      <label style={{ width: 72 }}>
        From
        <Input autoFocus value={from} onChange={(event) => change({ from: event.target.value })} />
      </label>
      <label style={{ width: 72 }}>
        To
        <Input value={to} onChange={(event) => change({ to: event.target.value })} />
      </label>
      <label style={{ width: 116 }}>
        Hours
        <Select
          value={rateClass}
          onChange={(chosen) => change({ rateClass: chosen })}
          popupMatchSelectWidth={false}
          options={["", "normal", "overtime", "night"].map((value) => ({
            value,
            label: value || "by the clock",
          }))}
        />
      </label>
      {kind === "drive" && (
        <label style={{ width: 64 }}>
          Miles
          <Input
            value={miles}
            inputMode="decimal"
            onChange={(event) => change({ miles: event.target.value })}
          />
        </label>
      )}
      <label className="wide">
        What was done
        <Input value={description} onChange={(event) => change({ description: event.target.value })} />
      </label>
      <label className="wide">
        Reason
        <Input
          value={reason}
          placeholder="kept with the change"
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
    </InlineForm>
  );
}

/** Corrects the quantity of a part, or takes it off; the reason is kept and stock and books follow. */
export function QuantityForm({ part, close }: { part: Part; close: () => void }) {
  const typed = useTyped({ version: part.version, draft: { quantity: String(part.quantity) } });
  const { quantity } = typed.draft;
  const [reason, setReason] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const path = { params: { path: { id: part.id } } };
  const save = useAct(
    () =>
      answer(
        client.PUT("/api/visit-parts/{id}", { ...path, body: { version: typed.version, quantity, reason } }),
      ),
    { done: close, refused: setProblem },
  );
  const remove = useAct(
    () =>
      answer(
        client.POST("/api/visit-parts/{id}/remove", { ...path, body: { version: typed.version, reason } }),
      ),
    { done: close, refused: setProblem },
  );
  return (
    <InlineForm
      label="Correct quantity"
      confirm="Correct"
      running={save.running}
      problem={problem}
      submit={() => save.run()}
      close={close}
      extra={<Button onClick={() => remove.run()}>Remove</Button>}
    >
      {!save.running && <Overtaken what="this part" typed={typed} />}
      <label style={{ width: 90 }}>
        {part.name}
        <Input
          autoFocus
          value={quantity}
          inputMode="decimal"
          onChange={(event) => typed.change({ quantity: event.target.value })}
        />
      </label>
      <label className="wide">
        Reason
        <Input
          value={reason}
          placeholder="kept with the change"
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
    </InlineForm>
  );
}

/** A part that nobody wrote down. */
export function AddPartForm({ visitId, close }: { visitId: number; close: () => void }) {
  const [partId, setPartId] = useState<number>();
  const [quantity, setQuantity] = useState("1");
  const [problem, setProblem] = useState<Problem>();
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/visits/{id}/parts", {
          params: { path: { id: visitId }, ...withKey(key) },
          body: { partId, quantity },
        }),
      ),
    { done: close, refused: setProblem },
  );
  return (
    <InlineForm
      label="Add part"
      confirm="Add"
      running={save.running}
      problem={problem}
      submit={() => save.run(undefined)}
      close={close}
    >
      <label className="wide">
        Part
        <PartSelect value={partId} onChange={setPartId} />
      </label>
      <label style={{ width: 80 }}>
        Quantity
        <Input value={quantity} inputMode="decimal" onChange={(event) => setQuantity(event.target.value)} />
      </label>
    </InlineForm>
  );
}

/** A supplier's bill for the job, without VAT. */
export function OtherCostForm({ jobId, close }: { jobId: number; close: () => void }) {
  const [supplier, setSupplier] = useState("");
  const [description, setDescription] = useState("");
  const [cost, setCost] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/other-costs", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: { supplier, description, cost },
        }),
      ),
    { done: close, refused: setProblem },
  );
  return (
    <InlineForm
      label="Supplier's bill"
      confirm="Add to the cost"
      running={save.running}
      problem={problem}
      submit={() => save.run(undefined)}
      close={close}
    >
      <label className="wide">
        Supplier
        <Input autoFocus value={supplier} onChange={(event) => setSupplier(event.target.value)} />
      </label>
      <label className="wide">
        For what
        <Input value={description} onChange={(event) => setDescription(event.target.value)} />
      </label>
      <label style={{ width: 110 }}>
        Net, without VAT
        <Input value={cost} inputMode="decimal" onChange={(event) => setCost(event.target.value)} />
      </label>
    </InlineForm>
  );
}

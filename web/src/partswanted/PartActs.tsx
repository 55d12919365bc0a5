import { Button } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { WantedPart } from "../api/generated/schema";
import { Act } from "../kit/Act";
import { Asking } from "../kit/Asking";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { partName } from "./words";

/**
 * What can be done next about a part, and the way back.
 *
 * @param keyed whether Enter does what comes next
 */
export function PartActs({ part, keyed }: { part: WantedPart; keyed?: boolean }) {
  const [ordering, setOrdering] = useState(false);
  const name = partName(part);
  const params = { path: { id: part.id } };
  const back = useAct(
    (version: number) =>
      answer(client.POST("/api/parts-wanted/{id}/take-back", { params, body: { version } })),
    { said: `Taken back: ${name}.` },
  );
  const undo = (version: number) => ({ label: "Take it back", run: () => back.run(version) });
  const arrive = useAct(
    () => answer(client.POST("/api/parts-wanted/{id}/arrive", { params, body: { version: part.version } })),
    {
      said: ({ version }) => ({
        text: `There: ${name}.`,
        undo: undo(version),
      }),
    },
  );
  const fit = useAct(
    () => answer(client.POST("/api/parts-wanted/{id}/fit", { params, body: { version: part.version } })),
    { said: ({ version }) => ({ text: `Fitted: ${name}.`, undo: undo(version) }) },
  );
  const drop = useAct(
    (reason: string) =>
      answer(client.POST("/api/parts-wanted/{id}/drop", { params, body: { version: part.version, reason } })),
    { said: ({ version }) => ({ text: `No longer wanted: ${name}.`, undo: undo(version) }) },
  );
  const open = part.state === "wanted" || part.state === "ordered" || part.state === "arrived";
  if (ordering) {
    return <OrderForm part={part} close={() => setOrdering(false)} />;
  }
  return (
    <>
      {part.state === "wanted" && (
        <Step keyed={keyed} of={name} run={() => setOrdering(true)}>
          It is ordered
        </Step>
      )}
      {(part.state === "wanted" || part.state === "ordered") && (
        <Step
          keyed={keyed && part.state === "ordered"}
          of={name}
          running={arrive.running}
          run={() => arrive.run()}
        >
          It is there
        </Step>
      )}
      {part.state === "ordered" && (
        <Step of={name} run={() => setOrdering(true)}>
          Order anew
        </Step>
      )}
      {part.state === "arrived" && !part.partId && (
        <Step of={name} running={fit.running} run={() => fit.run()}>
          It is fitted
        </Step>
      )}
      {open && (
        <Asking
          label="No longer wanted…"
          of={name}
          title={`Is ${name} no longer wanted?`}
          question="Why? The reason stays with it."
          confirm="No longer wanted"
          run={drop.run}
          running={drop.running}
        />
      )}
      {part.state !== "wanted" && (
        <Step of={name} running={back.running} run={() => back.run(part.version)}>
          Take that back
        </Step>
      )}
    </>
  );
}

function Step({
  keyed,
  of,
  running = false,
  run,
  children,
}: {
  keyed?: boolean;
  of: string;
  running?: boolean;
  run: () => void;
  children: string;
}) {
  return keyed ? (
    <Act by="Enter" running={running} run={run}>
      {children}
    </Act>
  ) : (
    <Button loading={running} aria-label={`${children}: ${of}`} onClick={run}>
      {children}
    </Button>
  );
}

function OrderForm({ part, close }: { part: WantedPart; close: () => void }) {
  const form = useForm({ version: part.version, draft: { supplier: part.supplier, expected: "" } });
  const order = useAct(
    () =>
      answer(
        client.POST("/api/parts-wanted/{id}/order", {
          params: { path: { id: part.id } },
          body: { version: form.version, ...form.draft },
        }),
      ),
    { done: close, refused: form.refused, said: `Ordered: ${partName(part)}.` },
  );
  return (
    <InlineForm
      form={form}
      label={`Order of ${partName(part)}`}
      confirm="It is ordered"
      running={order.running}
      submit={() => order.run()}
      close={close}
      overtaken="this part"
    >
      <TextField form={form} name="supplier" label="From" width={190} placeholder="supplier" autoFocus />
      <TextField form={form} name="expected" label="Expected" width={120} placeholder="wed, 2 dec" />
    </InlineForm>
  );
}

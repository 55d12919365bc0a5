import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { HeldPart } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment } from "../format";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";

/** What is printed on a part's box: whoever scanned the wrong one is put right here. */
export function PartCodes({ part, editable }: { part: HeldPart; editable: boolean }) {
  const { data } = useQuery(queries.partCodes(part.id));
  const [adding, setAdding] = useState(false);
  const params = { path: { id: part.id } };
  const back = useAct(
    (code: string) => answer(client.POST("/api/held-parts/{id}/codes", { params, body: { code } })),
    { said: (_, code) => ({ text: `${code} is ${part.name} again.` }) },
  );
  const takeOff = useAct(
    (code: string) => answer(client.POST("/api/held-parts/{id}/codes/take-off", { params, body: { code } })),
    {
      said: (_, code) => ({
        text: `${code} is no longer ${part.name}.`,
        undo: { label: "Put it back", run: () => back.run(code) },
      }),
    },
  );
  if (!data || (data.length === 0 && !editable)) {
    return null;
  }
  return (
    <Section name="On its box">
      {data.length > 0 && (
        <Lines
          caption={`Codes on the box of ${part.name}`}
          columns={[{ name: "Code" }, { name: "Said by" }, { name: "Act", silent: true }]}
        >
          {data.map(({ code, by, at }) => (
            <tr key={code}>
              <td>{code}</td>
              <td className="soft">
                {by}, {moment(at)}
              </td>
              <td>
                {editable && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`take ${code} off`}
                    onClick={() => takeOff.run(code)}
                  >
                    take off
                  </button>
                )}
              </td>
            </tr>
          ))}
        </Lines>
      )}
      {editable &&
        (adding ? (
          <CodeForm part={part} close={() => setAdding(false)} />
        ) : (
          <Word id={`code-of-${part.id}`} run={() => setAdding(true)}>
            Add a code
          </Word>
        ))}
    </Section>
  );
}

function CodeForm({ part, close }: { part: HeldPart; close: () => void }) {
  const form = useForm({ version: 0, draft: { code: "" } });
  const add = useAct(
    (_: undefined) =>
      answer(
        client.POST("/api/held-parts/{id}/codes", {
          params: { path: { id: part.id } },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: `${form.draft.code} is ${part.name}.` },
  );
  return (
    <InlineForm
      form={form}
      label={`Code of ${part.name}`}
      confirm="It is on the box"
      running={add.running}
      submit={() => add.run(undefined)}
      close={close}
    >
      <TextField form={form} name="code" label="Code, scanned or typed" width={240} autoFocus />
    </InlineForm>
  );
}

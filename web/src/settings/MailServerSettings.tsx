import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import type { MailServerSettings as Server } from "../api/generated/schema";
import { queries } from "../api/queries";
import { ChoiceField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useMay } from "../people/useMay";

const ENCRYPTION = {
  starttls: "after the greeting (STARTTLS)",
  tls: "from the first byte (TLS)",
  none: "none",
} as const;

/** The server that takes the company's mail, and a message to try it with. */
export function MailServerSettings() {
  const { data, error } = useQuery(queries.mailServer);
  const mayChange = useMay("change_settings");
  return (
    <Section
      name="Mail"
      aside={data && !data.standsIn && data.host === "" && <b className="needs">not set</b>}
    >
      {error && <p className="fault">{error.message}</p>}
      {data?.standsIn && (
        <p className="small soft">
          In this demo a stand-in takes all mail, whatever is set here; nothing leaves this machine.
        </p>
      )}
      {data && !mayChange && (
        <p>{data.host === "" ? "No mail server is set." : `${data.host}:${data.port}`}</p>
      )}
      {data && mayChange && (
        <>
          <ServerForm server={data} />
          <TestForm />
        </>
      )}
    </Section>
  );
}

function ServerForm({ server }: { server: Server }) {
  const form = useForm({
    version: server.version,
    draft: {
      host: server.host,
      port: String(server.port),
      encryption: server.encryption as Server["encryption"],
      username: server.username,
      password: "",
      fromAddress: server.fromAddress,
    },
  });
  const save = useAct(
    () => answer(client.PUT("/api/settings/mail-server", { body: { ...form.draft, version: form.version } })),
    { done: form.saved, refused: form.refused, said: "Kept. Waiting mail is tried now." },
  );
  const remove = useAct(
    () =>
      answer(client.DELETE("/api/settings/mail-server", { params: { query: { version: form.version } } })),
    { done: form.saved, said: "No mail server is set now. Mail waits." },
  );
  return (
    <InlineForm
      form={form}
      label="Mail server"
      confirm="Keep mail server"
      running={save.running}
      submit={() => save.run()}
      extra={
        server.host !== "" && (
          <button type="button" className="plain" onClick={() => remove.run()}>
            use none
          </button>
        )
      }
      overtaken="the mail server"
    >
      <TextField
        form={form}
        name="host"
        label="Mail server"
        width={240}
        needed
        placeholder="smtp.provider.example"
      />
      <TextField form={form} name="port" label="Port" width={80} needed figure />
      <ChoiceField
        form={form}
        name="encryption"
        label="Encrypted"
        width={230}
        needed
        options={Object.entries(ENCRYPTION).map(([value, label]) => ({
          value: value as Server["encryption"],
          label,
        }))}
      />
      <TextField form={form} name="username" label="Name, if it asks for one" width={240} />
      <TextField
        form={form}
        name="password"
        label={server.hasPassword ? "Password (one is kept)" : "Password"}
        width={200}
        secret
      />
      <TextField
        form={form}
        name="fromAddress"
        label="Mail comes from, if not from the company's address"
        width={330}
      />
    </InlineForm>
  );
}

function TestForm() {
  const form = useForm({ version: 0, draft: { to: "" } });
  const send = useAct(() => answer(client.POST("/api/settings/mail-server/test", { body: form.draft })), {
    done: form.saved,
    refused: form.refused,
    said: ({ to }) => ({ text: `A test message went to ${to}. Look whether it arrived.` }),
  });
  return (
    <InlineForm
      form={form}
      label="Test message"
      confirm="Send a test message"
      running={send.running}
      submit={() => send.run()}
    >
      <TextField form={form} name="to" label="Send a test message to" width={240} needed />
    </InlineForm>
  );
}

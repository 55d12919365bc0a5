import { answer, client } from "../api/client";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useSession } from "./SessionGate";

/** The password of whoever is signed in; with another one their other sessions end. */
export function OwnPassword() {
  const { person } = useSession();
  const form = useForm({ version: 0, draft: { present: "", password: "" } });
  const change = useAct(() => answer(client.POST("/api/password", { body: form.draft })), {
    done: form.saved,
    refused: form.refused,
    said: "Your password is another now. You are signed out everywhere else.",
  });
  return (
    <Section name="Your password" aside={person.name}>
      <InlineForm
        form={form}
        label="Your password"
        confirm="Change my password"
        running={change.running}
        submit={() => change.run()}
      >
        <TextField form={form} name="present" label="Present password" width={240} needed secret />
        <TextField form={form} name="password" label="New password" width={240} needed secret />
      </InlineForm>
    </Section>
  );
}

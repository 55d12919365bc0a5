import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { answer, client } from "../api/client";
import { queries } from "../api/queries";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useTitle } from "../kit/useTitle";
import styles from "./SignIn.module.css";

/** Where somebody who was given a link sets a password of their own. */
export default function PasswordPage() {
  useTitle("Your password");
  const secret = useParams().secret ?? "";
  const { data, error } = useQuery(queries.passwordLink(secret));
  const form = useForm({ version: 0, draft: { password: "" } });
  const set = useAct(
    async () => {
      await answer(
        client.POST("/api/password-links/{secret}", { params: { path: { secret } }, body: form.draft }),
      );
      return answer(
        client.POST("/api/sign-in", {
          body: { username: data?.username ?? "", password: form.draft.password },
        }),
      );
    },
    { done: () => window.location.replace("/"), refused: form.refused, said: "Your password is set." },
  );
  return (
    <main className={styles.page}>
      <h1>{data ? `${data.name}, your password` : "Your password"}</h1>
      {error && <p className="fault">{error.message}</p>}
      {data && (
        <>
          <p>
            For {data.company}. You sign in as <b>{data.username}</b>. At least 12 characters: three words
            that have nothing to do with each other are easy to keep in mind.
          </p>
          <InlineForm
            form={form}
            label="Your password"
            confirm="Set it and sign in"
            running={set.running}
            submit={() => set.run()}
          >
            <TextField form={form} name="password" label="Password" needed secret autoFocus />
          </InlineForm>
        </>
      )}
    </main>
  );
}

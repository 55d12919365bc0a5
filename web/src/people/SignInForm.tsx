import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, type Problem } from "../api/client";
import { queries } from "../api/queries";
import styles from "./SignIn.module.css";

/** Signs in: whoever comes, or the one whose session has ended; anybody else begins at the start. */
export function SignInForm({ expected, signedIn }: { expected?: string; signedIn?: () => void }) {
  const queryClient = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string>();
  const [running, setRunning] = useState(false);

  async function signIn() {
    setRunning(true);
    setProblem(undefined);
    try {
      const session = await answer(client.POST("/api/sign-in", { body: { username, password } }));
      if (expected && session.person?.name !== expected) {
        window.location.assign("/");
        return;
      }
      signedIn?.();
      if (!expected) {
        queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      }
      queryClient.setQueryData(queries.session.queryKey, session);
      await queryClient.invalidateQueries();
    } catch (refused) {
      setProblem((refused as Problem).message);
    } finally {
      setRunning(false);
    }
  }

  return (
    <form
      className={styles.form}
      onSubmit={(event) => {
        event.preventDefault();
        void signIn();
      }}
    >
      <label>
        Name
        <Input
          autoFocus
          autoComplete="username"
          autoCapitalize="none"
          value={username}
          onChange={(event) => setUsername(event.target.value)}
          size="large"
        />
      </label>
      <label>
        Password
        <Input.Password
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          size="large"
        />
      </label>
      {problem && (
        <p className="fault" role="alert">
          {problem}
        </p>
      )}
      <Button type="primary" htmlType="submit" size="large" loading={running}>
        Sign in
      </Button>
    </form>
  );
}

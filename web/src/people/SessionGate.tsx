import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Modal } from "antd";
import { createContext, lazy, type ReactNode, Suspense, useContext, useEffect, useState } from "react";
import { leaveBehind } from "../api/carry";
import { answer, client, Problem, signedOut } from "../api/client";
import type { Session } from "../api/generated/schema";
import { queries } from "../api/queries";
import { writeAs } from "../format";

const FoundingPage = lazy(() => import("../founding/FoundingPage"));

type SignedInSession = Session & { person: NonNullable<Session["person"]> };

const SessionContext = createContext<SignedInSession | null>(null);

/** The session of whoever is signed in; only below {@link SessionGate}. */
export function useSession(): SignedInSession {
  const session = useContext(SessionContext);
  if (!session) {
    throw new Error("useSession needs a SessionGate above it");
  }
  return session;
}

/** Lets nobody through who is not signed in; a session that ends is taken up again above the page, which keeps its state. */
export function SessionGate({ children }: { children: ReactNode }) {
  const { data: session, error, refetch } = useQuery(queries.session);
  const [ended, setEnded] = useState(false);
  // Whoever was signed in keeps the page when the session turns out to have ended.
  const [known, setKnown] = useState<SignedInSession>();
  if (session?.person && session !== known) {
    // It may be one of an earlier start, which is carried along.
    writeAs(session.locale, session.currency);
    setKnown(session as SignedInSession);
  }
  useEffect(() => {
    const end = () => setEnded(true);
    signedOut.addEventListener("signed-out", end);
    return () => signedOut.removeEventListener("signed-out", end);
  }, []);
  if (error instanceof Problem && error.rule === "NO_COMPANY") {
    return (
      <Suspense fallback={<div className="blank" aria-busy="true" />}>
        <FoundingPage />
      </Suspense>
    );
  }
  if (error && !session) {
    return (
      <main className="blank">
        <h1>The server cannot be reached</h1>
        <p>{error.message}</p>
        <Button onClick={() => refetch()}>Try again</Button>
      </main>
    );
  }
  if (!session) {
    return <div className="blank" aria-busy="true" />;
  }
  if (!known) {
    return (
      <main className="sign-in">
        <h1>Pragmata</h1>
        <p>{session.company}</p>
        <SignInForm />
      </main>
    );
  }
  return (
    <SessionContext.Provider value={known}>
      {children}
      <Modal
        open={ended || !session.person}
        title="Your session has ended"
        footer={null}
        closable={false}
        width={380}
        destroyOnHidden
      >
        <p>Sign in again. What you typed is still on the page behind.</p>
        <SignInForm expected={known.person.name} signedIn={() => setEnded(false)} />
      </Modal>
    </SessionContext.Provider>
  );
}

function SignInForm({ expected, signedIn }: { expected?: string; signedIn?: () => void }) {
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
      className="form"
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

/** Ends the session, forgets what was typed in it, and goes back to the sign-in page. */
export async function signOut() {
  await answer(client.POST("/api/sign-out"));
  await leaveBehind();
  window.sessionStorage.clear();
  window.location.assign("/");
}

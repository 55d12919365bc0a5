import { useQuery } from "@tanstack/react-query";
import { createContext, lazy, type ReactNode, Suspense, useContext, useEffect, useState } from "react";
import { leaveBehind } from "../api/carry";
import { answer, client, Problem, signedOut } from "../api/client";
import type { Session } from "../api/generated/schema";
import { queries } from "../api/queries";
import { writeAs } from "../format";
import { withLook } from "../kit/withLook";

// Whoever is signed in, on a phone on a slow line, need not wait for what signs in.
const SignInPage = lazy(withLook(() => import("./SignInPage")));
const signInAgain = withLook(() => import("./SignInAgain"));
const SignInAgain = lazy(signInAgain);
const FoundingPage = lazy(withLook(() => import("../founding/FoundingPage")));

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
  const over = known !== undefined && (ended || !session?.person);
  const [asked, setAsked] = useState(false);
  if (over && !asked) {
    setAsked(true);
  }
  useEffect(() => {
    // It is at hand before the session ends, for the server may be another one by then.
    const timer = known && setTimeout(() => void signInAgain().catch(() => undefined), 10_000);
    return () => clearTimeout(timer);
  }, [known]);
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
        <button type="button" className="early" onClick={() => refetch()}>
          Try again
        </button>
      </main>
    );
  }
  if (!session) {
    return <div className="blank" aria-busy="true" />;
  }
  if (!known) {
    return (
      <Suspense fallback={<div className="blank" aria-busy="true" />}>
        <SignInPage company={session.company} />
      </Suspense>
    );
  }
  return (
    <SessionContext.Provider value={known}>
      {children}
      {asked && (
        <Suspense>
          <SignInAgain open={over} expected={known.person.name} signedIn={() => setEnded(false)} />
        </Suspense>
      )}
    </SessionContext.Provider>
  );
}

/** Ends the session, forgets what was typed in it, and goes back to the sign-in page. */
export async function signOut() {
  await answer(client.POST("/api/sign-out"));
  await leaveBehind();
  window.sessionStorage.clear();
  window.location.assign("/");
}

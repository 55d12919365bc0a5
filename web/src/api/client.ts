import createClient from "openapi-fetch";
import type { paths } from "./generated/schema";

/** One thing that is wrong with what was sent; the pointer names the field, such as "/lines/0/price". */
export type Fault = { pointer: string; rule: string; detail: string };

/** The server's refusal, in words fit for the screen (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly rule: string | undefined;
  readonly faults: Fault[];

  constructor(status: number, body: { detail?: string; rule?: string; errors?: Fault[] } | undefined) {
    super(body?.detail ?? "The server did not answer as expected. Try again in a moment.");
    this.status = status;
    this.rule = body?.rule;
    this.faults = body?.errors ?? [];
  }

  /** What is wrong with a field, if anything. */
  at(pointer: string): string | undefined {
    return this.faults.find((fault) => fault.pointer === pointer)?.detail;
  }
}

/** Told when the session has ended, so that somebody can sign in again over what is being typed. */
export const signedOut = new EventTarget();

const cookie = (name: string) =>
  document.cookie
    .split("; ")
    .find((part) => part.startsWith(`${name}=`))
    ?.slice(name.length + 1);

export const client = createClient<paths>({ baseUrl: window.location.origin });

client.use({
  onRequest({ request }) {
    const token = cookie("XSRF-TOKEN");
    if (token && request.method !== "GET") {
      request.headers.set("X-XSRF-TOKEN", decodeURIComponent(token));
    }
    return request;
  },
});

/** Gives the answer's body, or throws the {@link Problem} that the server described. */
export async function answer<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let result: { data?: T; error?: unknown; response: Response };
  try {
    result = await request;
  } catch {
    throw new Problem(0, {
      detail: "The server cannot be reached. What you typed is still here; try again.",
    });
  }
  if (result.response.ok) {
    return result.data as T;
  }
  if (result.response.status === 401) {
    signedOut.dispatchEvent(new Event("signed-out"));
    throw new Problem(401, {
      detail: "Your session has ended. Sign in again; what you typed is still here.",
    });
  }
  throw new Problem(result.response.status, result.error as { detail?: string } | undefined);
}

/** A key that makes one act safe to send twice; keep it until the act has succeeded. */
export const newKey = (): string => crypto.randomUUID();

export const withKey = (key: string) => ({ header: { "Idempotency-Key": key } });

/** What the server says of what others changed. */
export type Notice =
  | { what: "changed"; kinds: string[] }
  | { what: "everything"; day: string }
  // The server lets us listen no more: the session has ended.
  | { what: "refused" }
  | { what: "day"; day: string };

/** The server is heard every few seconds; after so long a silence the stream is dead. */
const LONGEST_SILENCE = 20_000;
const LOOKED_AT_EVERY = 5_000;

/**
 * Listens to what others change until it is told to stop. One of a browser's open pages has the stream and tells the
 * others: a browser opens few connections to one server, and each page with a stream of its own would use them up. The mark
 * is the session's, from before the page read anything: while nothing was told since, nothing need be read again.
 */
export function follow(mark: string, told: (notice: Notice) => void): () => void {
  const stop = new AbortController();
  const others = new BroadcastChannel("live");
  others.onmessage = (message: MessageEvent<Notice>) => told(message.data);
  const tellAll = (notice: Notice) => {
    told(notice);
    others.postMessage(notice);
  };
  const listen = () => stream(mark, tellAll, stop.signal);
  if (navigator.locks) {
    navigator.locks.request("live", { signal: stop.signal }, listen).catch(ignoreAborted);
  } else {
    void listen();
  }
  return () => {
    stop.abort();
    others.close();
  };
}

function ignoreAborted(reason: unknown) {
  if (!(reason instanceof DOMException && reason.name === "AbortError")) {
    throw reason;
  }
}

/** Reads the stream, opening it anew whenever it ends or falls silent; it is through when it is told to stop. */
function stream(mark: string, told: (notice: Notice) => void, stop: AbortSignal): Promise<void> {
  return new Promise((through) => {
    let heard = Date.now();
    let refused = false;
    let source = open();

    function open() {
      const opened = new EventSource(`/api/live?told=${encodeURIComponent(mark)}`);
      for (const what of ["changed", "everything", "day"] as const) {
        opened.addEventListener(what, (event) => {
          heard = Date.now();
          refused = false;
          told({ what, ...JSON.parse(event.data) });
        });
      }
      opened.addEventListener("error", () => {
        if (opened.readyState === EventSource.CLOSED && !refused) {
          refused = true;
          told({ what: "refused" });
        }
      });
      return opened;
    }

    const timer = setInterval(() => {
      // A computer that slept, a session that ended, a server that was started anew.
      if (source.readyState === EventSource.CLOSED || Date.now() - heard > LONGEST_SILENCE) {
        source.close();
        source = open();
        heard = Date.now();
      }
    }, LOOKED_AT_EVERY);
    stop.addEventListener("abort", () => {
      clearInterval(timer);
      source.close();
      through();
    });
  });
}

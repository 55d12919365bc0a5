import { useEffect } from "react";

/** Names the window after what it shows, so that tabs and the history can be told apart. */
export function useTitle(title: string | undefined) {
  useEffect(() => {
    document.title = title ? `${title} · Pragmata` : "Pragmata";
    return () => {
      document.title = "Pragmata";
    };
  }, [title]);
}

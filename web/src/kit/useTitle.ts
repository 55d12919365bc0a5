import { useEffect } from "react";

/** Names the window after what it shows, so that tabs and the history can be told apart; nothing leaves it as it is. */
export function useTitle(title: string | undefined) {
  useEffect(() => {
    if (title === undefined) {
      return;
    }
    document.title = `${title} · Pragmata`;
    return () => {
      document.title = "Pragmata";
    };
  }, [title]);
}

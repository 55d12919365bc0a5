import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useParams } from "react-router";
import { queries } from "../api/queries";

/** What an address such as /quotes/1391 names by its number. */
export function Numbered({
  kind,
  show,
}: {
  kind: "quote" | "job" | "invoice";
  show: (id: number) => ReactNode;
}) {
  const number = Number(useParams().number);
  const { data, error } = useQuery(queries.document(kind, number));
  if (error) {
    return (
      <div className="sheet alone">
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  return data ? show(data.id) : <div className="sheet alone" aria-busy="true" />;
}

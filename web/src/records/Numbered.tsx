import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useParams } from "react-router";
import { queries } from "../api/queries";
import { WaitingSheet } from "../kit/Sheet";

/** What an address such as /quotes/1391 names by its number. */
export function Numbered({
  kind,
  show,
}: {
  kind: "quote" | "job" | "invoice";
  show: (id: number) => ReactNode;
}) {
  const said = useParams().number ?? "";
  const isNumber = /^\d{1,15}$/.test(said);
  const { data, error } = useQuery({ ...queries.document(kind, Number(said)), enabled: isNumber });
  const fault = isNumber
    ? error?.message
    : `“${said}” is not the number of a ${kind}. Press / and type any words of it.`;
  return data ? show(data.id) : <WaitingSheet alone fault={fault} />;
}

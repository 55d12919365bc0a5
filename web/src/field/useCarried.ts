import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { openWithoutNetwork } from "../api/carry";
import type { VanPart } from "../api/generated/schema";
import { queries } from "../api/queries";

/** Has along what the day needs without a network: its stops, those of the next day, the parts. */
export function useCarried() {
  const queryClient = useQueryClient();
  const { data } = useQuery(queries.carried);
  useQuery(queries.carriedParts);
  useQuery(queries.carriedKits);
  useEffect(() => void openWithoutNetwork(), []);
  useEffect(() => {
    for (const visit of data?.visits ?? []) {
      const { queryKey } = queries.pocketVisit(visit.visitId);
      // What was read later stands.
      if (!queryClient.getQueryData(queryKey)) {
        queryClient.setQueryData(queryKey, visit);
      }
    }
  }, [data, queryClient]);
}

/** Parts by what is typed: as the server finds them, and from those that are carried along where there is no network. */
export function useParts(typed: string): VanPart[] {
  const { data, isPlaceholderData, isError } = useQuery(queries.vanParts(typed));
  const { data: carried } = useQuery(queries.carriedParts);
  if (data && !isPlaceholderData && !isError) {
    return data;
  }
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return (carried ?? data ?? []).filter((part) => {
    const said = `${part.number} ${part.name}`.toLowerCase();
    return words.every((word) => said.includes(word));
  });
}

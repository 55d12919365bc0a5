import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { openWithoutNetwork } from "../api/carry";
import type { VanPart } from "../api/generated/schema";
import { queries } from "../api/queries";

/**
 * Has along what the day needs without a network: its stops, those of the next day, the parts. What the page itself shows
 * goes first on a poor line.
 */
export function useCarried(shown: boolean) {
  const queryClient = useQueryClient();
  const { data, dataUpdatedAt } = useQuery({ ...queries.carried, enabled: shown });
  useQuery({ ...queries.carriedParts, enabled: shown });
  useQuery({ ...queries.carriedKits, enabled: shown });
  useEffect(() => {
    if (shown) {
      void openWithoutNetwork();
    }
  }, [shown]);
  useEffect(() => {
    for (const visit of data?.visits ?? []) {
      void carryPhotos(queryClient, visit.visitId);
      const { queryKey } = queries.pocketVisit(visit.visitId);
      const known = queryClient.getQueryCache().find({ queryKey });
      // What was read later stands, and what is looked at is read by itself.
      if (!known?.isActive() && (known?.state.dataUpdatedAt ?? 0) < dataUpdatedAt) {
        queryClient.setQueryData(queryKey, visit, { updatedAt: dataUpdatedAt });
      }
    }
  }, [data, dataUpdatedAt, queryClient]);
}

/** Has the small photos of a visit and of its site along. */
async function carryPhotos(queryClient: QueryClient, visitId: number): Promise<void> {
  const seen = await queryClient
    .ensureQueryData(queries.photosOnSite(visitId))
    .catch(() => ({ photos: [], before: [] }));
  for (const { id } of [...seen.photos, ...seen.before]) {
    void fetch(`/api/pocket/photos/${id}/small`).catch(() => undefined);
  }
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
    const said = [part.number, part.name, ...part.codes].join(" ").toLowerCase();
    return words.every((word) => said.includes(word));
  });
}

import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { queries } from "../api/queries";

/** Goes to a quote that was just made. */
export function useOpenQuote() {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  return async (id: number, options?: { replace: boolean }) => {
    const quote = await queryClient.fetchQuery(queries.quote(id));
    navigate(`/quotes/${quote.number}`, options);
  };
}

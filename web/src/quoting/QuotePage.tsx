import { useNavigate, useParams } from "react-router";
import { NewQuote, QuoteSheetView } from "./QuoteSheetView";

/** A quote alone, or a new one. */
export default function QuotePage() {
  const { id } = useParams();
  const navigate = useNavigate();
  return id ? (
    <QuoteSheetView key={id} id={Number(id)} alone />
  ) : (
    <NewQuote made={(made) => navigate(`/quotes/${made}`, { replace: true })} />
  );
}

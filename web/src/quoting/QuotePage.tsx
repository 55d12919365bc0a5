import { useParams } from "react-router";
import { Numbered } from "../records/Numbered";
import { NewQuote, QuoteSheetView } from "./QuoteSheetView";
import { useOpenQuote } from "./useOpenQuote";

/** A quote alone, or a new one. */
export default function QuotePage() {
  const { number } = useParams();
  const open = useOpenQuote();
  return number ? (
    <Numbered kind="quote" show={(id) => <QuoteSheetView key={id} id={id} alone />} />
  ) : (
    <NewQuote made={(made) => open(made, { replace: true })} />
  );
}

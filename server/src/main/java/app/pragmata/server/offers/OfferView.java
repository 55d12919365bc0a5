package app.pragmata.server.offers;

import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.quoting.OfferDocument;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A quote as its customer sees it.
 *
 * @param state a draft while it is being changed by us
 * @param lines as sent or, once accepted, as chosen
 * @param contentHash by which both sides know what exactly was accepted; null before
 * @param depositHeldMinor what was paid and is not on an invoice yet
 * @param depositDueMinor what is still to be paid; nothing before accepting
 * @param words what the page says in the document's language, with {0} and so on for its figures
 * @param hasLogo whether the seller has one
 * @param cardNotice what to know before paying by card; null where no card is taken
 */
public record OfferView(
    OfferDocument document,
    QuoteState.Code state,
    List<OfferDocument.DocumentLine> lines,
    OfferDocument.Sum sum,
    @Nullable String acceptedBy,
    @Nullable LocalDateTime acceptedAt,
    @Nullable String contentHash,
    long depositHeldMinor,
    long depositDueMinor,
    @Nullable String cardNotice,
    boolean hasLogo,
    List<Question> questions,
    Map<String, String> words) {

  /** What was asked; the answer is null until we gave it. */
  public record Question(String question, LocalDateTime askedAt, @Nullable String answer) {}
}

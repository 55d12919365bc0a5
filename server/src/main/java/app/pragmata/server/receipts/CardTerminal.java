package app.pragmata.server.receipts;

/** Whoever takes money by card. A reference names a payment: the same one is never taken twice. */
public interface CardTerminal {
  /** What the terminal says of a payment. */
  enum Answer {
    TAKEN,
    DECLINED,
    /** It does not know the reference, so no money moved. */
    NOT_TAKEN,
    /** It did not answer: money may have moved or not. */
    NONE
  }

  /** What whoever pays should know before giving a card; empty when nothing. */
  String notice();

  /** Takes the money, once for each reference. */
  Answer charge(String reference, long amountMinor, String card);

  /** What became of a payment that was asked for earlier. */
  Answer find(String reference);
}

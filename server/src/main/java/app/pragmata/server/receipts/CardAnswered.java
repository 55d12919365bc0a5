package app.pragmata.server.receipts;

/**
 * The terminal told of itself what became of a payment: after its answer was given up, or once
 * more.
 */
public record CardAnswered(String reference, CardTerminal.Answer answer) {}

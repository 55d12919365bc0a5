package app.pragmata.server.quoting;

import app.pragmata.core.Coded;
import app.pragmata.server.quoting.OfferDocument.DocumentLine;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What changed from one edition of a quote to another, line by line and term by term. */
record EditionComparison(
    int before,
    int after,
    List<Change> changes,
    List<TermChange> terms,
    long netBeforeMinor,
    long netAfterMinor) {
  /** What happened to a line. */
  enum What implements Coded {
    SAME,
    CHANGED,
    /** Nothing but what comes off it. */
    DISCOUNT,
    ADDED,
    REMOVED
  }

  /**
   * A line with what it was and what it is.
   *
   * @param before null when it was added
   * @param after null when it was removed
   */
  record Change(What what, @Nullable DocumentLine before, @Nullable DocumentLine after) {}

  /** Something agreed for the whole that differs; empty where nothing was said. */
  record TermChange(Term term, String before, String after) {}

  /** What is agreed for a quote as a whole. */
  enum Term implements Coded {
    TITLE,
    SITE,
    EQUIPMENT,
    PROMISE,
    VALID_UNTIL,
    PRICES,
    DISCOUNT,
    DEPOSIT,
    DEPOSIT_DUE,
    STAGES,
    NOTES
  }

  /** Lines of the same description are the same line, in their order. */
  static EditionComparison of(OfferDocument before, OfferDocument after) {
    Map<String, List<DocumentLine>> left = new HashMap<>();
    before
        .lines()
        .forEach(line -> left.computeIfAbsent(name(line), n -> new ArrayList<>()).add(line));
    var changes = new ArrayList<Change>();
    for (DocumentLine line : after.lines()) {
      List<DocumentLine> old = left.getOrDefault(name(line), List.of());
      if (old.isEmpty()) {
        changes.add(new Change(What.ADDED, null, line));
      } else {
        DocumentLine was = old.removeFirst();
        changes.add(new Change(what(was, line), was, line));
      }
    }
    for (DocumentLine line : before.lines()) {
      if (left.getOrDefault(name(line), List.of()).remove(line)) {
        changes.add(new Change(What.REMOVED, line, null));
      }
    }
    return new EditionComparison(
        before.edition(),
        after.edition(),
        changes,
        terms(before, after),
        before.sum().netMinor(),
        after.sum().netMinor());
  }

  private static What what(DocumentLine was, DocumentLine is) {
    if (was.equals(is)) {
      return What.SAME;
    }
    return atFullPrice(was).equals(atFullPrice(is)) ? What.DISCOUNT : What.CHANGED;
  }

  private static DocumentLine atFullPrice(DocumentLine line) {
    return new DocumentLine(
        line.kind(),
        line.description(),
        line.quantity(),
        line.choice(),
        line.group(),
        line.taken(),
        line.fullMinor(),
        line.warrantyPercent(),
        line.warrantyMinor(),
        line.fullMinor(),
        line.fullMinor());
  }

  private static List<TermChange> terms(OfferDocument before, OfferDocument after) {
    Map<Term, String> was = terms(before);
    return terms(after).entrySet().stream()
        .filter(term -> !term.getValue().equals(was.get(term.getKey())))
        .map(
            term ->
                new TermChange(term.getKey(), was.getOrDefault(term.getKey(), ""), term.getValue()))
        .toList();
  }

  private static Map<Term, String> terms(OfferDocument document) {
    var terms = new EnumMap<Term, String>(Term.class);
    terms.put(Term.TITLE, document.title());
    terms.put(Term.SITE, document.site());
    terms.put(Term.EQUIPMENT, document.equipment());
    terms.put(Term.PROMISE, document.promise().words());
    terms.put(Term.VALID_UNTIL, document.wording().day(document.validUntil()));
    terms.put(Term.PRICES, document.pricesWithVat() ? "with VAT" : "without VAT");
    terms.put(Term.DISCOUNT, document.discount());
    terms.put(Term.DEPOSIT, document.deposit());
    terms.put(
        Term.DEPOSIT_DUE,
        document.deposit().isEmpty() ? "" : "within %d days".formatted(document.depositDueDays()));
    terms.put(
        Term.STAGES,
        document.stages().stream()
            .map(stage -> stage.name() + " " + stage.part())
            .collect(Collectors.joining(", ")));
    terms.put(Term.NOTES, document.notes());
    return terms;
  }

  private static String name(DocumentLine line) {
    return line.kind().code() + " " + line.description();
  }
}

package app.pragmata.server.quoting;

import app.pragmata.server.quoting.OfferDocument.DocumentLine;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What changed from one edition of a quote to another, line by line. */
record EditionComparison(
    int before, int after, List<Change> changes, long netBeforeMinor, long netAfterMinor) {
  /**
   * A line with what it was and what it is.
   *
   * @param what same, changed, added or removed
   * @param before null when it was added
   * @param after null when it was removed
   */
  record Change(String what, @Nullable DocumentLine before, @Nullable DocumentLine after) {}

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
        changes.add(new Change("added", null, line));
      } else {
        DocumentLine was = old.removeFirst();
        changes.add(new Change(was.equals(line) ? "same" : "changed", was, line));
      }
    }
    for (DocumentLine line : before.lines()) {
      if (left.getOrDefault(name(line), List.of()).remove(line)) {
        changes.add(new Change("removed", line, null));
      }
    }
    return new EditionComparison(
        before.edition(),
        after.edition(),
        changes,
        before.sum().netMinor(),
        after.sum().netMinor());
  }

  private static String name(DocumentLine line) {
    return line.kind() + " " + line.description();
  }
}

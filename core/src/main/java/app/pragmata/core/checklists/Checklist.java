package app.pragmata.core.checklists;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** What is gone through on site, in this order. */
public record Checklist(List<ChecklistItem> items) {
  /** More than anybody answers on a phone. */
  public static final int MOST_ITEMS = 60;

  public Checklist {
    items = List.copyOf(items);
  }

  /** Notes every fault of the list with its field, such as {@code items/2/choices}. */
  public void check(Reading reading) {
    if (items.isEmpty()) {
      reading.fault("items", Rule.NO_LINES, "A checklist asks at least one question. Add one.");
    }
    Set<String> asked = new HashSet<>();
    for (int i = 0; i < items.size(); i++) {
      ChecklistItem item = items.get(i);
      item.check("items/" + i, reading);
      if (!item.question().isEmpty() && !asked.add(item.question().toLowerCase(Locale.ROOT))) {
        reading.fault(
            "items/%d/question".formatted(i), Rule.REPEATED, "This is asked twice. Remove one.");
      }
    }
  }
}

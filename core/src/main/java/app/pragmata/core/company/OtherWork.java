package app.pragmata.core.company;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.util.Arrays;
import java.util.List;

/**
 * What people are paid for beside visits, such as the yard or training.
 *
 * @param names as they are offered, in this order; empty for none
 */
public record OtherWork(List<String> names) {
  private static final int MOST = 8;
  private static final int LONGEST = 40;

  public OtherWork {
    names = List.copyOf(names);
  }

  /** Reads names with commas between them; a name that is there twice counts once. */
  public static OtherWork parse(String typed) {
    List<String> names =
        Arrays.stream(typed.split(",", -1))
            .map(String::strip)
            .filter(name -> !name.isEmpty())
            .distinct()
            .toList();
    if (names.size() > MOST) {
      throw new Unreadable(Rule.TOO_LONG, "Name at most %d kinds of other work.".formatted(MOST));
    }
    if (names.stream().anyMatch(name -> name.length() > LONGEST)) {
      throw new Unreadable(
          Rule.TOO_LONG,
          "Use at most %d characters for each kind of other work, with commas between them."
              .formatted(LONGEST));
    }
    return new OtherWork(names);
  }

  /** As it is typed. */
  public String text() {
    return String.join(", ", names);
  }
}

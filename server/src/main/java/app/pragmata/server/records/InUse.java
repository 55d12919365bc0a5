package app.pragmata.server.records;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.Map;
import java.util.stream.Collectors;

/** Keeps what other records refer to from being deleted. */
public final class InUse {
  private InUse() {}

  /**
   * Refuses when anything uses the record.
   *
   * @param uses how many there are of each thing, by its name in the singular
   * @param instead what to do instead of deleting it
   */
  public static void refuse(String name, Map<String, Integer> uses, String instead) {
    String found =
        uses.entrySet().stream()
            .filter(use -> use.getValue() > 0)
            .map(
                use ->
                    use.getValue()
                        + " "
                        + (use.getValue() == 1 ? use.getKey() : plural(use.getKey())))
            .collect(Collectors.joining(", "));
    if (!found.isEmpty()) {
      throw new Refused(
          Rule.IN_USE, "%s cannot be deleted: it has %s. %s".formatted(name, found, instead));
    }
  }

  private static String plural(String singular) {
    return singular.startsWith("piece ") ? singular.replace("piece ", "pieces ") : singular + "s";
  }
}

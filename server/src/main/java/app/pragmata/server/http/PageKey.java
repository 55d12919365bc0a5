package app.pragmata.server.http;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;

/**
 * Where a page of a list ends: the values of its last row in the list's order, so that the next
 * page starts right after it however many rows came or went meanwhile (keyset paging).
 */
public record PageKey(List<String> values) {
  public static PageKey of(Object... values) {
    return new PageKey(Arrays.stream(values).map(String::valueOf).toList());
  }

  /** Reads what {@link #text} gave; refused when it is not a key of so many values. */
  public static PageKey parse(String text, int count) {
    try {
      String joined = new String(Base64.getUrlDecoder().decode(text), StandardCharsets.UTF_8);
      List<String> values = List.of(joined.split("\u001f", -1));
      if (values.size() == count) {
        return new PageKey(values);
      }
    } catch (IllegalArgumentException notOurs) {
      // told below, as any other key that is not ours
    }
    throw unknown();
  }

  /** The key as part of an address. */
  public String text() {
    return Base64.getUrlEncoder()
        .withoutPadding()
        .encodeToString(String.join("\u001f", values).getBytes(StandardCharsets.UTF_8));
  }

  /** The value as it was put in. */
  public String text(int index) {
    return values.get(index);
  }

  public long number(int index) {
    try {
      return Long.parseLong(values.get(index));
    } catch (NumberFormatException notOurs) {
      throw unknown();
    }
  }

  public BigDecimal decimal(int index) {
    try {
      return new BigDecimal(values.get(index));
    } catch (NumberFormatException notOurs) {
      throw unknown();
    }
  }

  public LocalDate day(int index) {
    try {
      return LocalDate.parse(values.get(index));
    } catch (DateTimeException notOurs) {
      throw unknown();
    }
  }

  /** The value as a word of a vocabulary. */
  public <E extends Enum<E> & Coded> E word(int index, Class<E> vocabulary) {
    return Coded.find(vocabulary, values.get(index)).orElseThrow(PageKey::unknown);
  }

  private static Refused unknown() {
    return new Refused(Rule.NOT_FOUND, "There is no such page of this list. Start from its top.");
  }
}

package app.pragmata.core.company;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigInteger;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Where customers pay to.
 *
 * @param words the bank and the account as they are written at home, such as a sort code; may be
 *     empty
 * @param iban the account's number of ISO 13616 without blanks; empty for none
 * @param bic the bank's code of ISO 9362; empty for none
 */
public record BankAccount(String words, String iban, String bic) {
  public static final BankAccount NONE = new BankAccount("", "", "");

  private static final Pattern IBAN = Pattern.compile("[A-Z]{2}[0-9]{2}[A-Z0-9]{11,30}");
  private static final Pattern BIC =
      Pattern.compile("[A-Z0-9]{4}[A-Z]{2}[A-Z0-9]{2}([A-Z0-9]{3})?");
  private static final BigInteger MODULUS = BigInteger.valueOf(97);

  /**
   * Reads an IBAN as it is typed, with or without blanks; one whose check sum is wrong is refused
   * (ISO 13616, by ISO 7064 MOD 97-10).
   */
  public static String parseIban(String typed) {
    String iban = typed.replaceAll("\\s", "").toUpperCase(Locale.ROOT);
    if (!IBAN.matcher(iban).matches()) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“%s” is no IBAN. It begins with two letters and two digits, such as FI21 1234 5600 0007 85."
              .formatted(Reading.abridged(typed)));
    }
    String digits =
        (iban.substring(4) + iban.substring(0, 4))
            .chars()
            .mapToObj(sign -> Integer.toString(Character.digit(sign, 36)))
            .collect(Collectors.joining());
    if (!new BigInteger(digits).mod(MODULUS).equals(BigInteger.ONE)) {
      throw new Unreadable(
          Rule.WRONG_CHECK_SUM,
          "The check digits of this IBAN do not fit: a digit is wrong, or two changed places. Compare it with the bank's letter.");
    }
    return iban;
  }

  /** Reads a BIC as it is typed. */
  public static String parseBic(String typed) {
    String bic = typed.replaceAll("\\s", "").toUpperCase(Locale.ROOT);
    if (!BIC.matcher(bic).matches()) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“%s” is no BIC. It has eight or eleven letters and digits, such as NDEAFIHH."
              .formatted(Reading.abridged(typed)));
    }
    return bic;
  }

  /** As it stands on documents, the IBAN in groups of four; empty for none. */
  public String printed() {
    return Stream.of(
            words,
            iban.isEmpty() ? "" : "IBAN " + iban.replaceAll("(.{4})(?!$)", "$1 "),
            bic.isEmpty() ? "" : "BIC " + bic)
        .filter(part -> !part.isEmpty())
        .collect(Collectors.joining(", "));
  }
}

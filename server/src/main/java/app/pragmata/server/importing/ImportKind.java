package app.pragmata.server.importing;

import app.pragmata.core.Coded;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/** What a list is about, with the columns that it may bring. */
public enum ImportKind implements Coded {
  CUSTOMERS,
  SITES,
  CONTACTS,
  EQUIPMENT,
  PRICE_LIST;

  /**
   * A column that a list may bring.
   *
   * @param headings what it is called at the head of other people's lists, in small letters
   */
  record Column(String name, boolean needed, List<String> headings) {
    static Column of(String name, String... headings) {
      return new Column(name, false, List.of(headings));
    }

    static Column needed(String name, String... headings) {
      return new Column(name, true, List.of(headings));
    }

    /** The name as people read it. */
    String label() {
      return name.replace('_', ' ');
    }
  }

  /** The columns that a list of this kind may bring, those that say most about it first. */
  List<Column> columns() {
    return switch (this) {
      case CUSTOMERS ->
          List.of(
              Column.needed("name", "name", "customer", "company", "account name"),
              Column.of("reference", "reference", "ref", "account", "account number", "code", "id"),
              Column.of("phone", "phone", "telephone", "tel", "mobile", "phone number"),
              Column.of("email", "email", "e-mail", "mail"),
              Column.of("address", "address", "street", "address 1", "billing address"),
              Column.of("postcode", "postcode", "post code", "zip", "postal code"),
              Column.of("payment_days", "payment days", "terms", "days", "payment terms"),
              Column.of("credit_limit", "credit limit", "limit"),
              Column.of("vat_number", "vat number", "vat no", "vat", "tax number"));
      case SITES ->
          List.of(
              Column.needed(
                  "customer", "customer", "customer reference", "account", "company", "reference"),
              Column.needed("name", "site", "site name", "name"),
              Column.needed("address", "address", "site address", "street"),
              Column.of("postcode", "postcode", "post code", "zip", "postal code"),
              Column.of("area", "area", "zone", "region"),
              Column.of("access_notes", "access notes", "access", "notes"));
      case CONTACTS ->
          List.of(
              Column.needed(
                  "customer", "customer", "customer reference", "account", "company", "reference"),
              Column.needed("name", "contact", "contact name", "name", "full name"),
              Column.of("site", "site", "site name"),
              Column.of("phone", "phone", "telephone", "tel", "mobile"),
              Column.of("email", "email", "e-mail", "mail"),
              Column.of("part", "part", "role", "does"));
      case EQUIPMENT ->
          List.of(
              Column.needed(
                  "customer", "customer", "customer reference", "account", "company", "reference"),
              Column.of("site", "site", "site name"),
              Column.needed("kind", "kind", "type", "equipment", "category"),
              Column.of("model", "model", "description", "make"),
              Column.needed("serial_number", "serial number", "serial", "serial no", "sn"),
              Column.needed(
                  "fitted_on", "fitted on", "fitted", "installed", "install date", "date"),
              Column.of("position", "position", "location", "where"),
              Column.of(
                  "parts_warranty_until",
                  "parts warranty until",
                  "warranty until",
                  "warranty",
                  "warranty end"),
              Column.of("labour_warranty_until", "labour warranty until", "labour warranty"));
      case PRICE_LIST ->
          List.of(
              Column.needed("number", "number", "part number", "part no", "code", "sku", "item"),
              Column.needed("name", "name", "description", "part"),
              Column.of("unit", "unit", "per", "uom"),
              Column.of("price", "price", "sell", "sales price", "list price", "price net"),
              Column.of("cost", "cost", "buy", "purchase price", "cost price"));
    };
  }

  /**
   * For each heading the column that it most likely means; empty for none. No column is meant
   * twice: the heading that says it more plainly has it.
   */
  List<String> guess(List<String> headings) {
    var guessed =
        new java.util.ArrayList<String>(java.util.Collections.nCopies(headings.size(), ""));
    for (Column column : columns()) {
      column.headings().stream()
          .mapToInt(
              heading ->
                  IntStream.range(0, headings.size())
                      .filter(at -> guessed.get(at).isEmpty())
                      .filter(at -> plain(headings.get(at)).equals(heading))
                      .findFirst()
                      .orElse(-1))
          .filter(at -> at >= 0)
          .findFirst()
          .ifPresent(at -> guessed.set(at, column.name()));
    }
    return List.copyOf(guessed);
  }

  private static String plain(String heading) {
    return heading.strip().toLowerCase(Locale.ROOT).replaceAll("[_\\s]+", " ");
  }
}

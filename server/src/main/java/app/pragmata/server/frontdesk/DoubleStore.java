package app.pragmata.server.frontdesk;

import app.pragmata.core.Coded;
import app.pragmata.core.Unreadable;
import app.pragmata.core.customers.Place;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.Vocabulary;
import java.util.List;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Looks for a customer who is on record already. */
@Repository
class DoubleStore {
  /** Somebody who may be the same, and what is the same about them. */
  record Likely(
      long id,
      long number,
      String name,
      String phone,
      String address,
      String postcode,
      List<Likeness> same) {}

  /** In what two customers are alike. */
  enum Likeness implements Coded {
    SAME_PHONE,
    SAME_POSTCODE,
    SAME_NAME,
    SIMILAR_NAME
  }

  private static final int FEWEST_DIGITS = 9;

  // The same phone number counts most; a name alone has to be nearly the same.
  private static final String SQL =
      Vocabulary.inSql(
          """
      select c.id, c.number, c.name, c.phone, c.address, c.postcode,
        found.phone as same_phone, c.postcode <> '' and c.postcode = {2} as same_postcode,
        lower(c.name) = lower({0}) as same_name, similarity(c.name, {0}) > 0.4 as similar_name
      from (
        select record_id as id, true as phone from search_entry
          where {1} <> '' and kind = :CUSTOMER and digits <> '' and digits like '% ' || {1} || '%'
        union
        (select record_id, false from search_entry
          where {0} <> '' and kind = :CUSTOMER and words @@ to_tsquery('simple', search_query({0}, true)) limit 300)
      ) found join customer c on c.id = found.id
      where c.merged_into is null and c.id <> {3}
        and (found.phone or similarity(c.name, {0}) > 0.75 or (c.postcode <> '' and c.postcode = {2}))
      order by found.phone desc, similarity(c.name, {0}) desc, c.number limit 5
      """,
          RecordKind.class);

  private final DSLContext database;
  private final CompanyStore companies;

  DoubleStore(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** The likeliest first; what cannot be read yet is left out of the comparison. */
  List<Likely> list(String name, String phone, String place, long except) {
    String digits =
        phone.replace("(0)", "").replaceAll("[^0-9+]", "").replaceFirst("^(\\+..|00..|0)", "");
    return database
        .resultQuery(
            SQL,
            DSL.val(SearchWords.first(name)),
            org.jooq.impl.DSL.val(digits.length() < FEWEST_DIGITS ? "" : digits),
            DSL.val(postcode(place)),
            DSL.val(except))
        .fetch(
            row ->
                new Likely(
                    row.get("id", Long.class),
                    row.get("number", Long.class),
                    row.get("name", String.class),
                    row.get("phone", String.class),
                    row.get("address", String.class),
                    row.get("postcode", String.class),
                    same(row)));
  }

  private static List<Likeness> same(Record row) {
    boolean sameName = row.get("same_name", Boolean.class);
    return Stream.of(Likeness.values())
        .filter(likeness -> row.get(likeness.code(), Boolean.class))
        .filter(likeness -> !(sameName && likeness == Likeness.SIMILAR_NAME))
        .toList();
  }

  private String postcode(String place) {
    try {
      return Place.parse(place, companies.getCompany().postcode()).postcode();
    } catch (Unreadable notYetWhole) {
      return "";
    }
  }
}

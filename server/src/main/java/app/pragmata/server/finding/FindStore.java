package app.pragmata.server.finding;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Coded;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.Vocabulary;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Finds people, places, equipment and jobs by whatever a caller may say, with one statement. */
@Repository
class FindStore {
  /**
   * A hit: where it leads, and two lines to know it by.
   *
   * @param kind what it is: a customer, a site, equipment, a job or a quote
   * @param number of the document that it opens; null for what has none
   * @param customerId whose it is
   */
  record Hit(
      RecordKind kind,
      long id,
      @Nullable Long number,
      long customerId,
      String title,
      String detail) {}

  /** A document, by the record on which it is seen: an invoice on its job. */
  record Numbered(DocumentKind kind, long id) {}

  /** A site with its customer and what stands there. */
  record SiteChoice(long id, String site, String customer, List<EquipmentChoice> equipment) {}

  record EquipmentChoice(long id, String name) {}

  /** What was typed as words, and as the query of words that may go on or be mistyped. */
  private record Said(String words, String query) {}

  private static final int MOST_DIGITS_OF_A_NUMBER = 9;
  private static final int FEWEST_DIGITS_OF_A_PHONE = 4;

  /**
   * {0} the tsquery in which every word may go on, {1} the one of whole words, {2} digits that
   * occur anywhere, {3} digits that begin a number, {4} a document's number, {5} the typed text.
   *
   * <p>Jobs are looked up newest first: the last 600 one by one, for words that many have, then
   * lots of 20,000 through the index, then all, until six are found.
   */
  private static final String SITES_BY_WORDS =
      Vocabulary.inSql(
          """
          select s.id from search_entry e
            join site s on s.customer_id = e.customer_id and e.kind = :CUSTOMER or s.id = e.record_id and e.kind = :SITE
            where e.kind in (:CUSTOMER, :SITE) and e.words @@ to_tsquery('simple', {0}) limit 200
          """,
          RecordKind.class);

  private static final String SQL =
      Vocabulary.inSql(
          """
      with said as (
        select {0} as going_on, {1} as whole
      ), numbered as (
        select 1 as rank, :JOB as kind, j.id, j.number, j.customer_id, 'Job ' || j.number || ', ' || c.name as title,
            j.title || ', ' || replace(j.state, '_', ' ') as detail
          from job j join customer c on c.id = j.customer_id where j.number = {4}
        union all select 2, :QUOTE, q.id, q.number, q.customer_id, 'Quote ' || q.number || ', ' || c.name, q.title || ', ' || q.state
          from quote q join customer c on c.id = q.customer_id where q.number = {4}
        union all select 3, :JOB, j.id, j.number, i.customer_id, 'Invoice ' || i.number || ', ' || c.name,
            case when r.owed_minor > 0 then 'open' else 'settled' end || ', ' || j.title
          from invoice i join receivable r on r.invoice_id = i.id join customer c on c.id = i.customer_id
            join job j on j.id = (select min(b.job_id) from receivable_job b where b.invoice_id = i.id)
          where i.number = {4}
        union all select 3, :AGREEMENT, a.id, a.number, a.customer_id, 'Agreement ' || a.number || ', ' || c.name, a.name
          from agreement a join customer c on c.id = a.customer_id where a.number = {4}
      ), called as (
        select kind, record_id, customer_id, position({3} in digits) = 0 as inside from search_entry
          where {2} <> '' and digits <> '' and (digits like '%' || {2} || '%' or digits like '% ' || {3} || '%')
          limit 60
      ), named as (
        (select kind, record_id, customer_id, true as whole from search_entry
          where kind = :CUSTOMER and words @@ (select whole from said) limit 80)
        union all (select kind, record_id, customer_id, false from search_entry
          where kind = :CUSTOMER and words @@ (select going_on from said) limit 80)
        union all (select kind, record_id, customer_id, words @@ (select whole from said) from search_entry
          where kind = :SITE and words @@ (select going_on from said) limit 80)
        union all (select kind, record_id, customer_id, words @@ (select whole from said) from search_entry
          where kind = :EQUIPMENT and words @@ (select going_on from said) limit 80)
      ), newest as (
        select coalesce(max(record_id), 0) as id from search_entry where kind = :JOB
      ), worked as (
        select record_id from (
          (select record_id from (select record_id, words from search_entry where kind = :JOB
              order by record_id desc limit 600) last where words @@ (select going_on from said) limit 6)
          union all (select lately.record_id
            from newest cross join generate_series(newest.id / 20000, newest.id / 20000 - 3, -1) as lot cross join lateral (
              select record_id from search_entry
              where kind = :JOB and record_id / 20000 = lot and words @@ (select going_on from said) and record_id <= newest.id - 600
              order by record_id desc limit 6) lately)
          union all (select record_id from (
              select record_id, lot from newest cross join lateral (
                select record_id, newest.id / 20000 - 3 as lot from search_entry
                where kind = :JOB and words @@ (select going_on from said) limit 20000) ever) before
            where record_id / 20000 < lot order by record_id desc limit 6)
        ) either limit 6
      ), customers as (
        select customer_id, bool_or(by_phone) as by_phone, bool_or(whole) as whole from (
          select customer_id, true as by_phone, not inside as whole from called where kind = :CUSTOMER
          union all select customer_id, false, whole from named where kind = :CUSTOMER) as either
        group by customer_id
      )
      select kind, id, number, customer_id, title, detail from (
        select 0 as part, rank::numeric as place, kind, id, number, customer_id, title, detail from numbered
        union all (select 1, row_number() over (
              order by by_phone desc, whole desc, (lower(c.name) like lower({5}) || '%') desc, similarity(c.name, {5}) desc, c.id),
            :CUSTOMER, c.id, null, c.id, c.name,
            concat_ws(' · ', nullif(c.phone, ''), nullif(concat_ws(', ', nullif(c.address, ''), nullif(c.postcode, '')), ''),
              case when c.stop_reason is not null then 'on stop' end)
          from customers h join customer c on c.id = h.customer_id where c.merged_into is null
          order by 2 limit 6)
        union all (select 2, row_number() over (order by h.whole desc, s.id), :SITE, s.id, null, s.customer_id,
            c.name || ', ' || s.name, concat_ws(', ', s.address, nullif(s.postcode, ''))
          from named h join site s on s.id = h.record_id join customer c on c.id = s.customer_id
          where h.kind = :SITE and h.customer_id not in (select customer_id from named where kind = :CUSTOMER)
          order by 2 limit 6)
        union all (select 3, row_number() over (order by h.whole desc, e.id), :EQUIPMENT, e.id, null, s.customer_id,
            e.serial_number || ', ' || e.model, c.name || ', ' || s.name
          from (select record_id, whole from named where kind = :EQUIPMENT
                union select record_id, not inside from called where kind = :EQUIPMENT) h
          join equipment e on e.id = h.record_id join site s on s.id = e.site_id join customer c on c.id = s.customer_id
          order by 2 limit 6)
        union all (select 4, row_number() over (order by j.id desc), :JOB, j.id, j.number, j.customer_id,
            'Job ' || j.number || ', ' || c.name, j.title || ', ' || replace(j.state, '_', ' ')
          from worked h join job j on j.id = h.record_id join customer c on c.id = j.customer_id
          order by 2 limit 6)
      ) found order by part, place
      """,
          RecordKind.class);

  private final DSLContext database;

  FindStore(DSLContext database) {
    this.database = database;
  }

  /** The document of this number; empty when there is none. */
  Optional<Numbered> findDocument(DocumentKind kind, long number) {
    return switch (kind) {
      case QUOTE ->
          database
              .select(QUOTE.ID)
              .from(QUOTE)
              .where(QUOTE.NUMBER.eq(number))
              .fetchOptional(row -> new Numbered(kind, row.value1()));
      case JOB ->
          database
              .select(JOB.ID)
              .from(JOB)
              .where(JOB.NUMBER.eq(number))
              .fetchOptional(row -> new Numbered(kind, row.value1()));
      case INVOICE ->
          database
              .select(RECEIVABLE_JOB.JOB_ID)
              .from(RECEIVABLE)
              .join(RECEIVABLE_JOB)
              .on(RECEIVABLE_JOB.INVOICE_ID.eq(RECEIVABLE.INVOICE_ID))
              .where(RECEIVABLE.NUMBER.eq(number))
              .orderBy(RECEIVABLE_JOB.JOB_ID)
              .limit(1)
              .fetchOptional(row -> new Numbered(DocumentKind.JOB, row.value1()));
    };
  }

  /** At most six of each kind, the likeliest first; a mistyped name is read as the ones like it. */
  @Transactional(readOnly = true)
  public List<Hit> find(String typed) {
    // The statement is large and its words are few: planning it anew each time would take longer
    // than running it.
    database.execute("set local plan_cache_mode = force_generic_plan");
    Said said = read(typed, false);
    List<Hit> hits = find(typed, said);
    if (hits.isEmpty() && said.words().matches(".*[^0-9 ]{3}.*")) {
      return find(typed, read(typed, true));
    }
    return hits;
  }

  private Said read(String typed, boolean widened) {
    return database
        .resultQuery("select search_text({0}), search_query({0}, {1})", val(typed), inline(widened))
        .fetchSingle(row -> new Said(row.get(0, String.class), row.get(1, String.class)));
  }

  /** Sites by words of the customer's or their own name and address; the first ones for none. */
  List<SiteChoice> listSites(String typed) {
    String query = read(typed, false).query();
    Condition wanted =
        query.isEmpty() ? noCondition() : SITE.ID.in(field(SITES_BY_WORDS, Long.class, val(query)));
    return database
        .select(
            SITE.ID,
            SITE.NAME.concat(", ").concat(SITE.ADDRESS),
            CUSTOMER.NAME,
            multiset(
                    select(
                            EQUIPMENT.ID,
                            EQUIPMENT.MODEL.concat(", ").concat(EQUIPMENT.SERIAL_NUMBER))
                        .from(EQUIPMENT)
                        .where(EQUIPMENT.SITE_ID.eq(SITE.ID))
                        .and(EQUIPMENT.REMOVED_ON.isNull()))
                .convertFrom(rows -> rows.map(mapping(EquipmentChoice::new))))
        .from(SITE)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(SITE.CUSTOMER_ID))
        .where(wanted)
        .orderBy(CUSTOMER.NAME, SITE.NAME)
        .limit(30)
        .fetch(mapping(SiteChoice::new));
  }

  private List<Hit> find(String typed, Said said) {
    String digits = digits(typed);
    return database
        .resultQuery(
            SQL,
            field("to_tsquery('simple', {0})", val(said.query())),
            field("plainto_tsquery('simple', {0})", val(said.words())),
            val(digits.replaceAll("\\D", "")),
            field("trim(search_digits({0}))", String.class, val(digits)),
            val(number(typed)),
            val(typed))
        .fetch(
            row ->
                new Hit(
                    Coded.get(RecordKind.class, row.get("kind", String.class)),
                    row.get("id", Long.class),
                    row.get("number", Long.class),
                    row.get("customer_id", Long.class),
                    row.get("title", String.class),
                    row.get("detail", String.class)));
  }

  /** The digits of a phone or serial number, with a leading plus; none where there are too few. */
  private static String digits(String typed) {
    String digits = typed.replace("(0)", "").replaceAll("[^0-9+]", "");
    boolean phoneLike = typed.matches("[0-9+()./ -]+") || typed.matches("[A-Za-z]{1,4}[ -]?\\d+");
    return phoneLike && digits.length() >= FEWEST_DIGITS_OF_A_PHONE ? digits : "";
  }

  /** The number of a document, however it is called; null where none is meant. */
  private static @Nullable Long number(String typed) {
    String number =
        typed.replaceFirst("(?i)^(job|quote|invoice|inv|[jqi])?[.\\s]*(no|nr|number)?[.\\s]*", "");
    return number.matches("\\d{1," + MOST_DIGITS_OF_A_NUMBER + "}") ? Long.valueOf(number) : null;
  }
}

package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.QUOTE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.jobs.JobState;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.core.quoting.WonShare;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Vocabulary;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Quotes that wait for an answer for too long, and what became of those of the last year. */
@RestController
class FollowUpApi {
  /**
   * What somebody should call about.
   *
   * @param afterDays after how many days without an answer a quote comes up
   */
  record FollowUp(
      int afterDays,
      Waiting unanswered,
      Waiting lapsed,
      List<OwedBack> owedBack,
      List<KindShare> kinds,
      List<LostReason> reasons) {}

  /** The largest of the quotes that wait, and how many they are in all and what they come to. */
  record Waiting(List<UnansweredQuote> quotes, int count, long netMinor) {}

  /** A sent quote without an answer; the days count from its sending. */
  record UnansweredQuote(
      long id,
      long number,
      String customer,
      String phone,
      String title,
      LocalDate sentOn,
      int days,
      LocalDate validUntil,
      boolean opened,
      long netMinor) {}

  /**
   * What is left of a deposit that no invoice will use any more.
   *
   * @param quoteNumber of the quote that it was for; null where it was for a job
   * @param jobNumber of the job that it was for; null where there is none
   */
  record OwedBack(
      long receiptId,
      long receiptNumber,
      @Nullable Long quoteNumber,
      @Nullable Long jobNumber,
      String customer,
      long leftMinor) {}

  /** Quotes of the last year by kind of job; a lapsed one is lost. Shares are per cent. */
  record KindShare(
      String kind,
      long open,
      long won,
      long lost,
      long wonMinor,
      long lostMinor,
      @Nullable BigDecimal byNumber,
      @Nullable BigDecimal byValue) {}

  /** Why quotes were lost; no reason is that they lapsed without an answer. */
  record LostReason(@Nullable String reason, long quotes, long netMinor) {}

  private static final int MOST_SHOWN = 100;

  // The names are looked up for the rows that are shown only.
  private static final String UNANSWERED =
      Vocabulary.inSql(
          """
      select q.id, q.number, c.name, c.phone, q.title, (q.sent_at at time zone {0})::date,
          {1} - (q.sent_at at time zone {0})::date, q.valid_until, l.opened_at is not null, q.net_minor
        from (select * from quote where state = :SENT and {2} order by net_minor desc, id limit {3}) q
        join customer c on c.id = q.customer_id left join quote_link l on l.quote_id = q.id
        order by q.net_minor desc, q.id
      """,
          JobState.Code.class, QuoteState.Code.class);

  private static final String OWED_BACK =
      Vocabulary.inSql(
          """
      select r.id, r.number, q.number, j.number, c.name, r.left_minor
        from receipt r join customer c on c.id = r.customer_id
        left join quote q on q.id = r.quote_id left join accepted_quote a on a.quote_id = q.id
        left join job j on j.id = coalesce(r.job_id, a.job_id)
        left join cost_release closing on closing.job_id = j.id and closing.closes
        where (r.quote_id is not null or r.job_id is not null) and r.left_minor > 0
          and (closing.job_id is not null
            or j.id is null and (q.state <> :ACCEPTED or q.valid_until < {0}))
        order by r.number
      """,
          JobState.Code.class, QuoteState.Code.class);

  // Who did not answer in time is counted apart, for these are few: one reading of a year's quotes
  // by their state takes a quarter less than one that looks at each of their days.
  private static final String KINDS =
      Vocabulary.inSql(
          """
      select k.name, coalesce(sum(quotes) filter (where answer = 'open'), 0)::bigint,
          coalesce(sum(quotes) filter (where answer = 'won'), 0)::bigint,
          coalesce(sum(quotes) filter (where answer = 'lost'), 0)::bigint,
          coalesce(sum(net_minor) filter (where answer = 'won'), 0)::bigint,
          coalesce(sum(net_minor) filter (where answer = 'lost'), 0)::bigint
        from (
          select kind_of_job_id, case state when :ACCEPTED then 'won' when :DECLINED then 'lost'
              else 'open' end as answer, quotes, net_minor
            from (select kind_of_job_id, state, count(*) as quotes, sum(net_minor) as net_minor
              from quote where state <> :DRAFT and created_at >= {1} group by 1, 2) answered
          union all
          select kind_of_job_id, unnest(array['open', 'lost']), unnest(array[-quotes, quotes]), net_minor
            from (select kind_of_job_id, count(*) as quotes, sum(net_minor) as net_minor
              from quote where state = :SENT and valid_until < {0} and created_at >= {1} group by 1) lapsed) q
        join kind_of_job k on k.id = q.kind_of_job_id
        group by k.name order by k.name
      """,
          JobState.Code.class, QuoteState.Code.class);

  private static final String REASONS =
      Vocabulary.inSql(
          """
      select decline_reason, count(*), sum(net_minor)::bigint
        from quote where state in (:SENT, :DECLINED) and (state = :DECLINED or valid_until < {0}) and created_at >= {1}
        group by 1 order by 3 desc limit 12
      """,
          JobState.Code.class, QuoteState.Code.class);

  private final DSLContext database;
  private final CompanyStore companies;

  FollowUpApi(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  @GetMapping("/api/quotes/follow-up")
  @Transactional(readOnly = true)
  public FollowUp followUp(Act act) {
    int days = companies.getCompany().quoting().followUpDays();
    var yearAgo = act.at().atZone(act.zone()).minusYears(1).toOffsetDateTime();
    return new FollowUp(
        days,
        waiting(act, unanswered(act, days)),
        waiting(act, QUOTE.VALID_UNTIL.lt(act.today())),
        database.resultQuery(OWED_BACK, act.today()).fetchInto(OwedBack.class),
        database
            .resultQuery(KINDS, act.today(), yearAgo)
            .fetch(
                row ->
                    kind(
                        row.get(0, String.class),
                        row.get(1, Long.class),
                        new WonShare(row.get(2, Long.class), row.get(3, Long.class)),
                        new WonShare(row.get(4, Long.class), row.get(5, Long.class)))),
        database.resultQuery(REASONS, act.today(), yearAgo).fetchInto(LostReason.class));
  }

  @GetMapping("/api/quotes/follow-up/file")
  @Transactional(readOnly = true)
  public ResponseEntity<byte[]> followUpFile(
      Act act, @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("quotes-to-follow-up", format)
        .head("Quote", "Customer", "Phone", "Title", "Sent", "Days", "Valid until", "Read", "Net")
        .rows(
            list(
                act,
                unanswered(act, companies.getCompany().quoting().followUpDays()),
                ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.number(),
                  row.customer(),
                  row.phone(),
                  row.title(),
                  row.sentOn(),
                  row.days(),
                  row.validUntil(),
                  row.opened() ? "yes" : "",
                  ListFile.amount(row.netMinor())
                })
        .answer();
  }

  /** Sent so many days ago or more, and still to be had. */
  private static Condition unanswered(Act act, int days) {
    return QUOTE
        .VALID_UNTIL
        .ge(act.today())
        .and(
            QUOTE.SENT_AT.lt(
                act.today().minusDays(days - 1L).atStartOfDay(act.zone()).toInstant()));
  }

  private Waiting waiting(Act act, Condition which) {
    return database
        .select(count(), coalesce(sum(QUOTE.NET_MINOR), BigDecimal.ZERO))
        .from(QUOTE)
        .where(QUOTE.STATE.eq(inline(QuoteState.Code.SENT)).and(which))
        .fetchSingle(
            total ->
                new Waiting(
                    list(act, which, MOST_SHOWN), total.value1(), total.value2().longValueExact()));
  }

  private List<UnansweredQuote> list(Act act, Condition which, int most) {
    return database
        .resultQuery(UNANSWERED, val(act.zone().getId()), val(act.today()), which, inline(most))
        .fetchInto(UnansweredQuote.class);
  }

  private static KindShare kind(String name, long open, WonShare quotes, WonShare value) {
    return new KindShare(
        name,
        open,
        quotes.won(),
        quotes.lost(),
        value.won(),
        value.lost(),
        quotes.percent(),
        value.percent());
  }
}

package app.pragmata.server.quoting;

import app.pragmata.core.quoting.WonShare;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.people.Act;
import app.pragmata.server.people.CompanyStore;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
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
      List<UnansweredQuote> unanswered,
      List<UnansweredQuote> lapsed,
      List<OwedDeposit> owedBack,
      List<KindShare> kinds,
      List<LostReason> reasons) {}

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

  /** What is left of a deposit that no invoice will use any more. */
  record OwedDeposit(long quoteId, long number, String customer, long heldMinor) {}

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

  record LostReason(String reason, long quotes, long netMinor) {}

  private static final String UNANSWERED =
      """
      select q.id, q.number, c.name, c.phone, q.title, (q.sent_at at time zone {0})::date,
          {1} - (q.sent_at at time zone {0})::date, q.valid_until, l.opened_at is not null, q.net_minor
        from quote q join customer c on c.id = q.customer_id left join quote_link l on l.quote_id = q.id
        where q.state = 'sent' and case when {3} then q.valid_until < {1}
          else q.valid_until >= {1} and (q.sent_at at time zone {0})::date <= {1} - {2} end
        order by q.net_minor desc, q.id limit 200
      """;

  private static final String OWED_BACK =
      """
      select q.id, q.number, c.name, sum(d.amount_minor - coalesce(u.used, 0))::bigint
        from deposit d join quote q on q.id = d.quote_id join customer c on c.id = q.customer_id
        left join lateral (select sum(amount_minor) as used from deposit_use where deposit_id = d.id) u on true
        left join job j on j.quote_id = q.id
        where j.state in ('called_off', 'billed', 'settled')
          or j.id is null and (q.state <> 'accepted' or q.valid_until < {0})
        group by q.id, c.name having sum(d.amount_minor - coalesce(u.used, 0)) > 0 order by q.number
      """;

  private static final String KINDS =
      """
      select k.name,
          count(*) filter (where q.state = 'sent' and q.valid_until >= {0}),
          count(*) filter (where q.state = 'accepted'),
          count(*) filter (where q.state = 'declined' or q.state = 'sent' and q.valid_until < {0}),
          coalesce(sum(q.net_minor) filter (where q.state = 'accepted'), 0)::bigint,
          coalesce(sum(q.net_minor) filter (where q.state = 'declined' or q.state = 'sent' and q.valid_until < {0}), 0)::bigint
        from quote q join kind_of_job k on k.id = q.kind_of_job_id
        where q.state <> 'draft' and q.created_at >= {1} group by k.name order by k.name
      """;

  private static final String REASONS =
      """
      select coalesce(decline_reason, 'no answer until it lapsed'), count(*), sum(net_minor)::bigint
        from quote where (state = 'declined' or state = 'sent' and valid_until < {0}) and created_at >= {1}
        group by 1 order by 3 desc limit 12
      """;

  private final DSLContext database;
  private final CompanyStore companies;

  FollowUpApi(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  @GetMapping("/api/quotes/follow-up")
  @Transactional(readOnly = true)
  public FollowUp followUp(Act act) {
    int days = companies.getCompany().followUpDays();
    var yearAgo = act.at().atZone(act.zone()).minusYears(1).toOffsetDateTime();
    return new FollowUp(
        days,
        unanswered(act, days, false),
        unanswered(act, days, true),
        database.resultQuery(OWED_BACK, act.today()).fetchInto(OwedDeposit.class),
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
      Act act, @RequestParam(defaultValue = "csv") String format) {
    return ListFile.named("quotes-to-follow-up", format)
        .head("Quote", "Customer", "Phone", "Title", "Sent", "Days", "Valid until", "Read", "Net")
        .rows(
            unanswered(act, companies.getCompany().followUpDays(), false),
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

  private List<UnansweredQuote> unanswered(Act act, int days, boolean lapsed) {
    return database
        .resultQuery(UNANSWERED, act.zone().getId(), act.today(), days, lapsed)
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

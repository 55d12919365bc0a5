package app.pragmata.server.quoting;

import app.pragmata.core.Coded;
import app.pragmata.core.Decimal;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Component;

/** What a job took, as the lines of a quote for another one like it. */
@Component
class WorkedJobs {
  private static final String TIMES =
      """
      select t.kind, t.rate_class, sum(clock_minutes(t.started_at, t.ended_at))::int as minutes, sum(t.miles) as miles
        from time_entry t join visit v on v.id = t.visit_id where v.job_id = {0} and t.ended_at is not null and t.removed_at is null
        group by t.kind, t.rate_class having sum(clock_minutes(t.started_at, t.ended_at)) > 0 order by t.kind desc, t.rate_class
      """;

  private static final String PARTS =
      """
      select p.id, p.name, sum(u.quantity) as quantity
        from visit_part u join visit v on v.id = u.visit_id join part p on p.id = u.part_id
        where v.job_id = {0} and u.removed_at is null group by p.id order by min(u.id)
      """;

  private static final String OTHERS =
      "select description, cost_minor from other_cost where job_id = {0} and cost_minor > 0 order by id";

  private final DSLContext database;

  WorkedJobs(DSLContext database) {
    this.database = database;
  }

  /** Empty when nothing was recorded on it. */
  List<TypedLine> list(long jobId, Wording wording) {
    var lines = new ArrayList<TypedLine>();
    database.resultQuery(TIMES, jobId).forEach(row -> lines.add(time(row, wording)));
    database
        .resultQuery(PARTS, jobId)
        .forEach(
            row ->
                lines.add(
                    TypedLine.part(
                            row.get("id", Long.class),
                            row.get("name", String.class),
                            Decimal.text(row.get("quantity", BigDecimal.class)))
                        .line()));
    database
        .resultQuery(OTHERS, jobId)
        .forEach(
            row ->
                lines.add(
                    TypedLine.other(
                            row.get("description", String.class),
                            "1",
                            Money.ofMinor(row.get("cost_minor", Long.class)).toString())
                        .line()));
    return lines;
  }

  private static TypedLine time(Record row, Wording wording) {
    String minutes = Minutes.text(row.get("minutes", Integer.class));
    return row.get("kind", String.class).equals("drive")
        ? TypedLine.drive(
                wording.say(Phrase.CALL_OUT),
                minutes,
                Decimal.text(row.get("miles", BigDecimal.class)))
            .line()
        : TypedLine.labour(wording.say(Phrase.LABOUR), minutes)
            .rateClass(Coded.get(RateClass.class, row.get("rate_class", String.class)))
            .line();
  }
}

package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Adds up what customers owe. */
@Repository
public class DebtStore {
  private final DSLContext database;

  public DebtStore(DSLContext database) {
    this.database = database;
  }

  /**
   * The debt of a customer as of a day; nothing for one who has no open invoice. Refused when there
   * is no such customer.
   */
  public Debt getDebt(long customerId, LocalDate today) {
    var late = RECEIVABLE.DUE_DATE.lt(today);
    return database
        .select(
            coalesce(sum(RECEIVABLE.OWED_MINOR), BigDecimal.ZERO),
            coalesce(sum(RECEIVABLE.OWED_MINOR).filterWhere(late), BigDecimal.ZERO),
            min(RECEIVABLE.DUE_DATE).filterWhere(late),
            CUSTOMER.CREDIT_LIMIT_MINOR,
            CUSTOMER.STOP_REASON)
        .from(CUSTOMER)
        .leftJoin(RECEIVABLE)
        .on(RECEIVABLE.CUSTOMER_ID.eq(CUSTOMER.ID).and(RECEIVABLE.OWED_MINOR.gt(0L)))
        .where(CUSTOMER.ID.eq(customerId))
        .groupBy(CUSTOMER.ID)
        .fetchOptional(
            row ->
                debt(
                    row.value1().longValueExact(),
                    row.value2().longValueExact(),
                    row.value3(),
                    row.value4(),
                    row.value5(),
                    today))
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND,
                    "This customer does not exist. Find the right one with / and the name."));
  }

  private static Debt debt(
      long owedMinor,
      long lateMinor,
      @Nullable LocalDate lateSince,
      long limitMinor,
      @Nullable String stopReason,
      LocalDate today) {
    return new Debt(
        owedMinor,
        lateMinor,
        lateSince == null ? 0 : (int) ChronoUnit.DAYS.between(lateSince, today),
        lateSince,
        limitMinor,
        limitMinor == 0 ? 0 : Math.max(0, owedMinor - limitMinor),
        stopReason);
  }
}

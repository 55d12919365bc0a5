package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.INVOICE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.sum;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Adds up what customers owe. */
@Repository
public class DebtStore {
  private final DSLContext database;

  DebtStore(DSLContext database) {
    this.database = database;
  }

  /** The debt of a customer as of a day; nothing for one who has no open invoice. */
  public Debt getDebt(long customerId, LocalDate today) {
    var late = INVOICE.DUE_DATE.lt(today);
    return database
        .select(
            coalesce(sum(INVOICE.OWED_MINOR), BigDecimal.ZERO),
            coalesce(sum(INVOICE.OWED_MINOR).filterWhere(late), BigDecimal.ZERO),
            min(INVOICE.DUE_DATE).filterWhere(late))
        .from(INVOICE)
        .where(INVOICE.CUSTOMER_ID.eq(customerId))
        .and(INVOICE.OWED_MINOR.gt(0L))
        .fetchSingle(
            row ->
                new Debt(
                    row.value1().longValueExact(),
                    row.value2().longValueExact(),
                    row.value3() == null ? 0 : (int) ChronoUnit.DAYS.between(row.value3(), today)));
  }
}

package app.pragmata.core.company;

import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * What an hour costs whoever works it, from a day on; both exact.
 *
 * @param standardCostPerHour what quotes reckon with before anybody is chosen for the work (the
 *     textbooks' standard cost)
 * @param overheadPerHour absorbed by each hour of labour, below the gross margin
 */
public record CostTerms(
    LocalDate fromDay, BigDecimal standardCostPerHour, BigDecimal overheadPerHour)
    implements InForce.Dated {}

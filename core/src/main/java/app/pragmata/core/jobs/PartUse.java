package app.pragmata.core.jobs;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;

/**
 * A part fitted on a visit.
 *
 * @param cost for the whole quantity, at the moving average of the moment of use
 * @param price per unit, net
 * @param warrantyExcluded whether the office took it out of the equipment's warranty
 */
public record PartUse(
    long id,
    long partId,
    String description,
    BigDecimal quantity,
    Money cost,
    UnitPrice price,
    VatTreatment vatTreatment,
    boolean warrantyExcluded) {}

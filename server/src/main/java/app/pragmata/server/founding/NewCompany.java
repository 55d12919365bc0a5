package app.pragmata.server.founding;

import app.pragmata.server.records.NumberSeries.Series;
import java.time.LocalDate;
import java.util.Map;

/**
 * A company that is to be founded.
 *
 * @param country of its template, as ISO 3166 writes it, such as "GB"
 * @param vatNumber may be empty, and so may be phone, email and bank
 * @param from the day from which its terms hold: the first on which it works
 * @param firstNumbers where series go on that were begun elsewhere; the others begin with 1
 */
public record NewCompany(
    String country,
    String name,
    String address,
    String phone,
    String email,
    String vatNumber,
    String bank,
    LocalDate from,
    Map<Series, Long> firstNumbers) {}

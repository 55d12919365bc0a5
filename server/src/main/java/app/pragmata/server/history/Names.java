package app.pragmata.server.history;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.server.history.HistoryApi.FieldChange;
import app.pragmata.server.history.HistoryApi.HistoryEntry;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.TableField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Puts names in the place of the numbers by which records point at others. */
@Repository
class Names {
  /** Where a number is found, and what it is called there. */
  private record Named(TableField<?, Long> id, Field<String> name) {}

  private static final Named PERSON_NAME = new Named(PERSON.ID, PERSON.NAME);
  private static final Named CUSTOMER_NAME = new Named(CUSTOMER.ID, CUSTOMER.NAME);

  private static final Map<String, Named> NAMED =
      Map.ofEntries(
          Map.entry("technicianId", PERSON_NAME),
          Map.entry("personId", PERSON_NAME),
          Map.entry("forPersonId", PERSON_NAME),
          Map.entry("createdBy", PERSON_NAME),
          Map.entry("closedBy", PERSON_NAME),
          Map.entry("checkedBy", PERSON_NAME),
          Map.entry("postedBy", PERSON_NAME),
          Map.entry("pinnedBy", PERSON_NAME),
          Map.entry("customerId", CUSTOMER_NAME),
          Map.entry("mergedInto", CUSTOMER_NAME),
          Map.entry("siteId", new Named(SITE.ID, SITE.NAME)),
          Map.entry("equipmentId", new Named(EQUIPMENT.ID, EQUIPMENT.MODEL)),
          Map.entry("replacedById", new Named(EQUIPMENT.ID, EQUIPMENT.MODEL)),
          Map.entry("equipmentKindId", new Named(EQUIPMENT_KIND.ID, EQUIPMENT_KIND.NAME)),
          Map.entry("kindOfJobId", new Named(KIND_OF_JOB.ID, KIND_OF_JOB.NAME)),
          Map.entry("partId", new Named(PART.ID, PART.NAME)),
          Map.entry("priceListId", new Named(PRICE_LIST.ID, PRICE_LIST.NAME)),
          Map.entry("responseTermsId", new Named(RESPONSE_TERMS.ID, RESPONSE_TERMS.NAME)));

  private final DSLContext database;

  Names(DSLContext database) {
    this.database = database;
  }

  /** The same entries with names; what is gone keeps its number. */
  List<HistoryEntry> resolve(List<HistoryEntry> entries) {
    Map<Named, Map<Long, String>> known = new HashMap<>();
    ids(entries).forEach((named, ids) -> known.put(named, fetch(named, ids)));
    return entries.stream()
        .map(
            entry ->
                new HistoryEntry(
                    entry.id(),
                    entry.at(),
                    entry.by(),
                    entry.kind(),
                    entry.recordId(),
                    entry.jobNumber(),
                    entry.event(),
                    entry.reason(),
                    entry.fields().stream()
                        .map(
                            field ->
                                new FieldChange(
                                    field.name(),
                                    name(known, field.name(), field.before()),
                                    name(known, field.name(), field.after())))
                        .toList()))
        .toList();
  }

  private static Map<Named, Set<Long>> ids(List<HistoryEntry> entries) {
    return entries.stream()
        .flatMap(entry -> entry.fields().stream())
        .filter(field -> NAMED.containsKey(field.name()))
        .collect(
            Collectors.groupingBy(
                field -> Objects.requireNonNull(NAMED.get(field.name())),
                Collectors.flatMapping(
                    field ->
                        Stream.of(field.before(), field.after())
                            .filter(Objects::nonNull)
                            .map(Long::valueOf),
                    Collectors.toSet())));
  }

  private Map<Long, String> fetch(Named named, Set<Long> ids) {
    return database
        .select(named.id(), named.name())
        .from(named.id().getTable())
        .where(named.id().in(ids))
        .fetchMap(named.id(), named.name());
  }

  private static @Nullable String name(
      Map<Named, Map<Long, String>> known, String field, @Nullable String value) {
    Named named = NAMED.get(field);
    return value == null || named == null
        ? value
        : known.getOrDefault(named, Map.of()).getOrDefault(Long.valueOf(value), value);
  }
}

package app.pragmata.server.finding;

import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.records.Happened;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.Vocabulary;
import app.pragmata.server.records.WhatHappened;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Repository;

/** Keeps the words and digits by which everything is found, as they follow from what happens. */
@Repository
public class SearchEntries {
  private static final List<RecordKind> FOUND =
      List.of(RecordKind.CUSTOMER, RecordKind.SITE, RecordKind.EQUIPMENT, RecordKind.JOB);

  private final DSLContext database;

  SearchEntries(DSLContext database) {
    this.database = database;
  }

  /** Brings up to date all that something happened to in a transaction. */
  @EventListener
  public void follow(WhatHappened what) {
    for (RecordKind kind : FOUND) {
      var ids =
          new HashSet<>(
              what.records(
                  happened -> happened.is(kind) && (kind != RecordKind.JOB || isSaid(happened))));
      if (kind == RecordKind.CUSTOMER) {
        ids.addAll(what.owners(happened -> happened.is(RecordKind.CONTACT)));
      } else if (kind == RecordKind.JOB) {
        ids.addAll(what.owners(happened -> happened.is(RecordKind.VISIT) && isSaid(happened)));
      }
      note(kind, ids);
    }
    for (long customerId : what.records(happened -> happened.event() == CustomerEvent.TOOK_IN)) {
      noteAllOf(customerId);
    }
  }

  /** Most that happens to a job changes nothing of the words that it is found by. */
  private static boolean isSaid(Happened happened) {
    return happened.changed().stream().anyMatch(Set.of("title", "notes", "note")::contains);
  }

  /** What went over to a customer is found as theirs. */
  private void noteAllOf(long customerId) {
    database.execute(
        Vocabulary.inSql(
            """
            select note_for_search(:SITE, array(select id from site where customer_id = {0})),
              note_for_search(:EQUIPMENT, array(
                select e.id from equipment e join site s on s.id = e.site_id where s.customer_id = {0})),
              note_for_search(:JOB, array(select id from job where customer_id = {0}))
            """,
            RecordKind.class),
        DSL.val(customerId));
  }

  private void note(RecordKind kind, Set<Long> ids) {
    if (!ids.isEmpty()) {
      database.execute(
          "select note_for_search({0}, {1})",
          DSL.val(kind.code()), DSL.val(ids.stream().sorted().toArray(Long[]::new)));
    }
  }

  /** Takes everything in anew. */
  public void recompute() {
    for (RecordKind kind : FOUND) {
      database.execute(
          "select note_for_search({0}, array(select id from {1}))",
          DSL.val(kind.code()), DSL.table(DSL.name(kind.code())));
    }
  }
}

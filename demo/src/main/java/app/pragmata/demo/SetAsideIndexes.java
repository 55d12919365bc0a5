package app.pragmata.demo;

import java.util.Collection;
import java.util.List;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/**
 * Indexes that would slow a large copy down, dropped before it and built again after it as they
 * were. What keeps rows unique stays.
 */
final class SetAsideIndexes {
  private final List<String> definitions;

  /** Drops the indexes of these tables and the constraint that no person has two clocks at once. */
  SetAsideIndexes(DSLContext database, Collection<String> tables) {
    var rows =
        database
            .resultQuery(
                """
                select indexname, indexdef from pg_indexes
                where schemaname = 'public' and tablename = any({0})
                  and indexname not in (select conname from pg_constraint)
                order by indexname
                """,
                DSL.val(tables.toArray(String[]::new)))
            .fetch();
    definitions =
        Stream.concat(
                rows.stream().map(row -> row.get(1, String.class)),
                Stream.of(
                    "alter table time_entry add constraint one_clock_per_person exclude using gist"
                        + " (person_id with =, tstzrange(started_at, ended_at) with &&) where (removed_at is null)"))
            .toList();
    rows.forEach(row -> database.execute("drop index \"" + row.get(0, String.class) + "\""));
    database.execute("alter table time_entry drop constraint one_clock_per_person");
  }

  /** What builds them again, one statement each. */
  List<String> definitions() {
    return definitions;
  }
}

package app.pragmata.server.records;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/**
 * What refers to a record, as the database's own foreign keys say it: whoever owns the record need
 * not know who that is, and no table is forgotten.
 */
@Repository
public class References {
  private record Reference(String table, String column) {
    Table<?> ofTable() {
      return DSL.table(DSL.name(table));
    }

    Field<Long> ofColumn() {
      return DSL.field(DSL.name(column), Long.class);
    }
  }

  private static final String FOREIGN_KEYS =
      """
      select c.conrelid::regclass::text, a.attname
        from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
        where c.contype = 'f' and c.confrelid = {0}::regclass and cardinality(c.conkey) = 1
          -- What goes with a record is no use of it.
          and c.confdeltype <> 'c'
        order by 1, 2
      """;

  private final DSLContext database;

  References(DSLContext database) {
    this.database = database;
  }

  /**
   * How many records of each kind refer to this one, by the kind's name in the singular; kinds
   * without any are left out.
   *
   * @param parts tables that are a part of the record and go with it
   */
  public Map<String, Integer> count(Table<?> table, long id, Set<Table<?>> parts) {
    var uses = new LinkedHashMap<String, Integer>();
    for (Reference reference : list(table, parts)) {
      int found = database.fetchCount(reference.ofTable(), reference.ofColumn().eq(id));
      if (found > 0) {
        uses.merge(reference.table().replace('_', '-'), found, Integer::sum);
      }
    }
    return uses;
  }

  /**
   * How many records of any kind refer to each record of a table; those without any are left out.
   */
  public Map<Long, Integer> countAll(Table<?> table, Set<Table<?>> parts) {
    var uses = new HashMap<Long, Integer>();
    for (Reference reference : list(table, parts)) {
      database
          .select(reference.ofColumn(), DSL.count())
          .from(reference.ofTable())
          .where(reference.ofColumn().isNotNull())
          .groupBy(reference.ofColumn())
          .forEach(row -> uses.merge(row.value1(), row.value2(), Integer::sum));
    }
    return uses;
  }

  /** Lets all that refers to one record refer to another one of its table. */
  public void move(Table<?> table, long fromId, long toId) {
    for (Reference reference : list(table, Set.of())) {
      database
          .update(reference.ofTable())
          .set(reference.ofColumn(), toId)
          .where(reference.ofColumn().eq(fromId))
          .execute();
    }
  }

  private List<Reference> list(Table<?> table, Set<Table<?>> parts) {
    return database
        .resultQuery(FOREIGN_KEYS, DSL.val(table.getName()))
        .fetch(row -> new Reference(row.get(0, String.class), row.get(1, String.class)))
        .stream()
        .filter(found -> parts.stream().noneMatch(part -> part.getName().equals(found.table())))
        .toList();
  }
}

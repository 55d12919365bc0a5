package app.pragmata.server.records;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;

import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.TableField;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Which version a record has by now. */
@Repository
public class VersionStore {
  private final DSLContext database;

  VersionStore(DSLContext database) {
    this.database = database;
  }

  /**
   * What a change has left of a record, read in the change's own transaction: afterwards somebody
   * else's change might be taken for seen.
   *
   * @param key by which its table finds it, such as {@code JOB.ID}
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Changed changed(TableField<?, Long> key, long id) {
    return new Changed(id, version(key, id));
  }

  /** The version alone. */
  @Transactional(propagation = Propagation.MANDATORY)
  public int version(TableField<?, Long> key, long id) {
    return database
        .select(field(name("version"), Integer.class))
        .from(Objects.requireNonNull(key.getTable()))
        .where(key.eq(id))
        .fetchSingle()
        .value1();
  }
}

package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_CODE;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * The codes that are printed on parts' boxes. Nobody has to type a list of them: whoever scans one
 * that is unknown and takes a part says by that what it is.
 */
@Repository
public class PartCodes {
  private static final int SHORTEST = 3;
  private static final int LONGEST = 80;

  private final DSLContext database;

  PartCodes(DSLContext database) {
    this.database = database;
  }

  /** A scanned code as it is kept, with its faults noted at {@code code}; null for none. */
  public static @Nullable String read(Reading reading, @Nullable String scanned) {
    String code = reading.optionalText("code", scanned, LONGEST);
    if (code != null && !code.isEmpty() && code.length() < SHORTEST) {
      reading.fault("code", Rule.TOO_SHORT, "A code has at least three characters. Scan it again.");
    }
    return code == null || code.isEmpty() ? null : code;
  }

  /** Says what a code stands for, in place of what was said before. */
  public void note(Act act, String code, long partId) {
    database
        .insertInto(PART_CODE)
        .set(PART_CODE.CODE, code)
        .set(PART_CODE.PART_ID, partId)
        .set(PART_CODE.NOTED_AT, act.at())
        .set(PART_CODE.NOTED_BY, act.personId())
        .onConflict(PART_CODE.CODE)
        .doUpdate()
        .setAllToExcluded()
        .where(PART_CODE.PART_ID.ne(partId))
        .execute();
  }

  /** Says no more that a code stands for a part; one that does not stays as it is. */
  void takeOff(String code, long partId) {
    database
        .deleteFrom(PART_CODE)
        .where(PART_CODE.CODE.eq(code).and(PART_CODE.PART_ID.eq(partId)))
        .execute();
  }

  /** Those of the part that is selected. */
  static Field<List<String>> ofPart() {
    return multiset(
            select(PART_CODE.CODE)
                .from(PART_CODE)
                .where(PART_CODE.PART_ID.eq(PART.ID))
                .orderBy(PART_CODE.CODE))
        .as("codes")
        .convertFrom(rows -> rows.map(row -> row.value1()));
  }

  /** Whether this is a code of the part that is selected. */
  static Condition isOf(String code) {
    return exists(
        selectOne()
            .from(PART_CODE)
            .where(PART_CODE.PART_ID.eq(PART.ID).and(PART_CODE.CODE.eq(code.strip()))));
  }
}

package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.KIT;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.ObjectMapper;

/** The lines of kits, as they would be typed. */
@Repository
class KitStore {
  private final DSLContext database;
  private final ObjectMapper json;

  KitStore(DSLContext database, ObjectMapper json) {
    this.database = database;
    this.json = json;
  }

  /** Those of one that there is. */
  List<TypedLine> lines(long kitId) {
    return read(
        database.select(KIT.LINES).from(KIT).where(KIT.ID.eq(kitId)).fetchSingle(KIT.LINES));
  }

  List<TypedLine> read(JSONB stored) {
    return json.readValue(stored.data(), new TypeReference<>() {});
  }

  JSONB write(List<TypedLine> lines) {
    return JSONB.valueOf(json.writeValueAsString(lines));
  }
}

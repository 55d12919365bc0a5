package app.pragmata.server.live;

import app.pragmata.server.records.RecordKind;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Tells all servers that records of a kind changed, by the database's own messages: those of a
 * transaction go out when it commits, and none do when it does not. What is written to the trail is
 * told by the trail's table itself, so that it takes no statement more.
 */
@Component
public class LiveNotices {
  static final String CHANNEL = "live";

  private final DSLContext database;

  LiveNotices(DSLContext database) {
    this.database = database;
  }

  /** Has every open page read anew what it shows of a kind, where no trail says so. */
  public void tell(RecordKind kind) {
    database.fetch("select pg_notify(?, ?)", CHANNEL, kind.code());
  }
}

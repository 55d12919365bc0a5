package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.BILL_FILE;
import static app.pragmata.server.generated.Tables.OTHER_COST;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Collection;
import java.util.HexFormat;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Suppliers' bills as they came, kept beside what they cost. */
@Service
@Transactional
public class BillFiles {
  /** A file as it came; what kind it is says its beginning, not its name. */
  record BillFile(String name, String mediaType, Content content) {}

  /** Its bytes. */
  static final class Content {
    private final byte[] bytes;

    Content(byte[] bytes) {
      this.bytes = bytes;
    }

    byte[] bytes() {
      return bytes.clone();
    }
  }

  private static final int LONGEST_NAME = 200;

  private final DSLContext database;
  private final Events events;

  BillFiles(DSLContext database, Events events) {
    this.database = database;
    this.events = events;
  }

  /** Keeps a bill as it came, instead of one that was kept before. */
  void keep(Act act, long otherCostId, @Nullable String fileName, byte[] content) {
    var reading = new Reading();
    String name = reading.text("fileName", fileName, LONGEST_NAME);
    reading.refuseIfFaulty();
    String mediaType = mediaType(content);
    Long jobId =
        database
            .select(OTHER_COST.JOB_ID)
            .from(OTHER_COST)
            .where(OTHER_COST.ID.eq(otherCostId))
            .forUpdate()
            .fetchOne(OTHER_COST.JOB_ID);
    if (jobId == null) {
      throw new Refused(Rule.NOT_FOUND, "This bill is not on a job any more. Reload the sheet.");
    }
    var row = database.newRecord(BILL_FILE);
    row.setOtherCostId(otherCostId);
    row.setName(Objects.requireNonNull(name));
    row.setMediaType(mediaType);
    row.setContent(content);
    row.setAddedAt(act.at());
    database
        .insertInto(BILL_FILE)
        .set(row)
        .onConflict(BILL_FILE.OTHER_COST_ID)
        .doUpdate()
        .setAllToExcluded()
        .execute();
    events.tell(
        act,
        BillingEvent.BILL_FILED,
        otherCostId,
        About.partOf(jobId).with(Map.of(), Map.of("name", row.getName())));
  }

  private static String mediaType(byte[] content) {
    if (begins(content, "%PDF-".getBytes(StandardCharsets.US_ASCII))) {
      return "application/pdf";
    }
    if (begins(content, HexFormat.of().parseHex("ffd8ff"))) {
      return "image/jpeg";
    }
    if (begins(content, HexFormat.of().parseHex("89504e470d0a1a0a"))) {
      return "image/png";
    }
    throw new Refused(
        Rule.WRONG_KIND, "A bill is kept as a PDF, or as a picture in JPEG or PNG. Scan it anew.");
  }

  private static boolean begins(byte[] content, byte[] mark) {
    return content.length > mark.length
        && Arrays.equals(content, 0, mark.length, mark, 0, mark.length);
  }

  /** The bill as it came; refused where none is kept. */
  @Transactional(readOnly = true)
  BillFile get(long otherCostId) {
    return database
        .select(BILL_FILE.NAME, BILL_FILE.MEDIA_TYPE, BILL_FILE.CONTENT.convertFrom(Content::new))
        .from(BILL_FILE)
        .where(BILL_FILE.OTHER_COST_ID.eq(otherCostId))
        .fetchOptional(Records.mapping(BillFile::new))
        .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "No file of this bill is kept."));
  }

  /** The names of the files that are kept of these bills. */
  @Transactional(readOnly = true)
  public Map<Long, String> names(Collection<Long> otherCostIds) {
    return database
        .select(BILL_FILE.OTHER_COST_ID, BILL_FILE.NAME)
        .from(BILL_FILE)
        .where(BILL_FILE.OTHER_COST_ID.in(otherCostIds))
        .fetchMap(BILL_FILE.OTHER_COST_ID, BILL_FILE.NAME);
  }
}

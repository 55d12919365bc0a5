package app.pragmata.demo;

import app.pragmata.demo.LargePlaces.Place;
import app.pragmata.demo.RepeatedRows.Repeats;
import app.pragmata.demo.RepeatedRows.Shift;
import app.pragmata.server.records.FrozenText;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.jooq.Record;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.JsonNodeFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * The documents of a repeated week, written anew for each copy: under its numbers, on its days, to
 * its customer.
 */
final class RepeatedDocuments {
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
          .build();

  private static final Pattern DAY = Pattern.compile("\\d{4}-\\d\\d-\\d\\d");

  private static final Map<String, String> IDS =
      Map.of(
          "invoiceNumber", "series invoice",
          "jobNumber", "series job",
          "visitId", "visit",
          "otherCostId", "other_cost");

  private final DSLContext database;
  private final DataSource source;
  private final RepeatedRows rows;
  private final LargePlaces places;
  private final ZoneId zone;

  RepeatedDocuments(
      DSLContext database, DataSource source, RepeatedRows rows, LargePlaces places, ZoneId zone) {
    this.database = database;
    this.source = source;
    this.rows = rows;
    this.places = places;
    this.zone = zone;
  }

  /** Writes the invoices and credit notes of all copies. */
  void writeBills(List<Repeats> repeats) {
    try (var copy = new TableCopy(source, "invoice_text", "invoice_id, content, content_hash")) {
      for (Repeats each : repeats) {
        String kept = RepeatedRows.kept(each.moment(), "invoice");
        var documents =
            database.fetch(
                "select t.invoice_id, i.customer_id, t.content from %s_text t join %s i on i.id = t.invoice_id order by 1"
                    .formatted(kept, kept));
        write(each, repeats, documents, "invoice", copy);
      }
    }
    try (var copy =
        new TableCopy(source, "credit_note_text", "credit_note_id, content, content_hash")) {
      for (Repeats each : repeats) {
        String kept = RepeatedRows.kept(each.moment(), "credit_note");
        var documents =
            database.fetch(
                "select t.credit_note_id, i.customer_id, t.content from %s_text t join %s c on c.id = t.credit_note_id join %s i on i.id = c.invoice_id order by 1"
                    .formatted(kept, kept, RepeatedRows.kept(each.moment(), "invoice")));
        write(each, repeats, documents, "credit_note", copy);
      }
    }
  }

  private void write(
      Repeats each,
      List<Repeats> repeats,
      List<? extends Record> documents,
      String kind,
      TableCopy copy) {
    List<JsonNode> read = read(documents, 2);
    for (int week = each.first(); week <= each.last(); week++) {
      Shift shift = rows.shift(each, week, repeats);
      for (int i = 0; i < read.size(); i++) {
        Record document = documents.get(i);
        String content = moved(read.get(i), kind, document.get(1, Long.class), shift);
        copy.row(document.get(0, Long.class) + shift.of(kind), content, FrozenText.hash(content));
      }
    }
  }

  /** Writes the sent quotes of all copies. */
  void writeQuotes(List<Repeats> repeats) {
    try (var copy =
        new TableCopy(
            source,
            "quote_edition",
            "quote_id, edition, sent_at, sent_by, content, content_hash, net_minor, cost_minor")) {
      for (Repeats each : repeats) {
        var documents =
            database.fetch(
                "select e.quote_id, q.customer_id, e.content, e.edition, e.sent_at, e.sent_by, e.net_minor, e.cost_minor from %s e join %s q on q.id = e.quote_id order by 1, 4"
                    .formatted(
                        RepeatedRows.kept(each.moment(), "quote_edition"),
                        RepeatedRows.kept(each.moment(), "quote")));
        List<JsonNode> read = read(documents, 2);
        for (int week = each.first(); week <= each.last(); week++) {
          Shift shift = rows.shift(each, week, repeats);
          for (int i = 0; i < read.size(); i++) {
            Record edition = documents.get(i);
            String content = moved(read.get(i), "quote", edition.get(1, Long.class), shift);
            copy.row(
                edition.get(0, Long.class) + shift.of("quote"),
                edition.get(3),
                edition.get(4, Instant.class).atZone(zone).plusWeeks(week).toInstant(),
                edition.get(5),
                content,
                FrozenText.hash(content),
                edition.get(6),
                edition.get(7));
          }
        }
      }
    }
  }

  private static List<JsonNode> read(List<? extends Record> documents, int column) {
    return documents.stream().map(row -> JSON.readTree(row.get(column, String.class))).toList();
  }

  private String moved(JsonNode document, String kind, long customerId, Shift shift) {
    ObjectNode copy = (ObjectNode) document.deepCopy();
    Place place = places.get(rows.placed(places.index(customerId), shift));
    copy.put("number", copy.path("number").asLong() + shift.of("series " + kind));
    move(copy, place, shift);
    for (JsonNode job : copy.path("jobs")) {
      ((ObjectNode) job).put("number", job.path("number").asLong() + shift.of("series job"));
    }
    if (copy.path("site").isString()) {
      copy.put("site", LargePlaces.SITE + ", " + place.address());
    }
    return JSON.writeValueAsString(copy);
  }

  private static void move(JsonNode node, Place place, Shift shift) {
    for (JsonNode child : node) {
      if (child.isContainer()) {
        move(child, place, shift);
      }
    }
    if (!(node instanceof ObjectNode object)) {
      return;
    }
    for (String name : List.copyOf(object.propertyNames())) {
      JsonNode value = object.path(name);
      String of = IDS.get(name);
      if (of != null && value.isNumber()) {
        object.put(name, value.asLong() + shift.of(of));
      } else if (value.isString() && DAY.matcher(value.asString()).matches()) {
        object.put(name, LocalDate.parse(value.asString()).plusWeeks(shift.weeks()).toString());
      } else if (name.equals("buyer")) {
        ObjectNode buyer = (ObjectNode) value;
        buyer.put("name", place.name());
        buyer.put("address", place.address());
        buyer.put("postcode", place.postcode());
      } else if (name.equals("siteAddress")) {
        object.put(name, place.address());
      } else if (name.equals("customer")) {
        object.put(name, place.name());
      } else if (name.equals("equipment")) {
        object.put(name, place.equipment());
      }
    }
  }
}

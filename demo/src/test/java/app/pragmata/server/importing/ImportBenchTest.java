package app.pragmata.server.importing;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.postgresql.PGConnection;

/** 50,000 customers, each with its site, against a bare COPY of the same rows. */
@Tag("bench")
class ImportBenchTest {
  private static final int ROWS = 50_000;

  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void fifty_thousand_rows_against_a_bare_copy() {
    String rows =
        IntStream.range(0, ROWS)
            .mapToObj(
                i ->
                    "BENCH-%d,Bench %d Ltd,01632 96%04d,%d Long Lane,OS%d %dAB"
                        .formatted(i, i, i % 10_000, i, 1 + i % 50, 1 + i % 9))
            .collect(Collectors.joining("\n"));
    Visitor office = Visitor.signedIn(program, "hester");
    String list = "reference,name,phone,address,postcode\n" + rows;
    long start = System.nanoTime();
    long id =
        office
            .upload("/api/imports?kind=customers", list.getBytes(StandardCharsets.UTF_8))
            .json()
            .path("id")
            .asLong();
    office.post(
        "/api/imports/" + id + "/take",
        Map.of("mapping", List.of("reference", "name", "phone", "address", "postcode")));
    while (List.of("looking", "taking")
        .contains(office.get("/api/imports/" + id).json().path("state").asString())) {
      LockSupport.parkNanos(50_000_000);
    }
    double seconds = (System.nanoTime() - start) / 1e9;
    double bare = copy(rows);
    System.out.printf(
        "%-34s %5.0f rows/s (%.1f s)    bare COPY %7.0f rows/s    x %.0f, one run%n",
        "import, 50,000 customers", ROWS / seconds, seconds, ROWS / bare, seconds / bare);
  }

  private double copy(String rows) {
    program
        .database()
        .execute(
            "create table bench_copy (reference text, name text, phone text, address text, postcode text)");
    long start = System.nanoTime();
    program
        .database()
        .connection(
            connection ->
                connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn(
                        "copy bench_copy from stdin (format csv)", new java.io.StringReader(rows)));
    double seconds = (System.nanoTime() - start) / 1e9;
    program.database().execute("drop table bench_copy");
    return seconds;
  }
}

package app.pragmata.server;

import static app.pragmata.server.generated.Tables.REFUSED_SIGN_IN;

import app.pragmata.server.mail.MailServer;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Measures what an attack costs those who work: figures depend on the machine, so each stands
 * beside the same without the attack.
 */
@Tag("bench")
class AttackBenchTest {
  private static final int READERS = 10;
  private static final int GUESSERS = 20;
  private static final long SECONDS = 8;
  private static final int FILES = 40;

  private final RunningPragmata program = RunningPragmata.at("2026-11-24T10:42");

  /** How long each reading of the money line took, in milliseconds, the shortest first. */
  private List<Double> read(ExecutorService pool, Visitor office) throws Exception {
    var stop = new AtomicBoolean();
    List<Double> times = Collections.synchronizedList(new ArrayList<>());
    List<java.util.concurrent.Future<?>> readers = new ArrayList<>();
    for (int i = 0; i < READERS; i++) {
      readers.add(
          pool.submit(
              () -> {
                while (!stop.get()) {
                  long start = System.nanoTime();
                  office.get("/api/money-line");
                  times.add((System.nanoTime() - start) / 1e6);
                  // As people do, who look at what they read.
                  java.util.concurrent.locks.LockSupport.parkNanos(100_000_000);
                }
              }));
    }
    java.util.concurrent.locks.LockSupport.parkNanos(SECONDS * 1_000_000_000);
    stop.set(true);
    for (var reader : readers) {
      reader.get();
    }
    Collections.sort(times);
    return times;
  }

  @Test
  void guessing_beside_ten_readers() throws Exception {
    Visitor office = Visitor.signedIn(program, "hester");
    var stop = new AtomicBoolean();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      read(pool, office);
      List<Double> alone = read(pool, office);
      for (int i = 0; i < GUESSERS; i++) {
        var guesser = new Visitor(program);
        var wrong = Map.of("username", "guessed" + i, "password", "wrong");
        pool.execute(
            () -> {
              while (!stop.get()) {
                guesser.post("/api/sign-in", wrong);
              }
            });
      }
      List<Double> beside = read(pool, office);
      stop.set(true);
      double ratio = percentile95(beside) / percentile95(alone);
      System.out.printf(
          "%n%d readers alone: median %.1f ms, 95th %.1f ms; beside %d who guess: median %.1f ms, 95th %.1f ms (x %.1f)%n",
          READERS,
          alone.get(alone.size() / 2),
          percentile95(alone),
          GUESSERS,
          beside.get(beside.size() / 2),
          percentile95(beside),
          ratio);
    } finally {
      program.database().deleteFrom(REFUSED_SIGN_IN).execute();
    }
  }

  private static double percentile95(List<Double> sorted) {
    return sorted.get(sorted.size() * 95 / 100);
  }

  @Test
  void filters_of_3500_words() {
    Visitor office = Visitor.signedIn(program, "hester");
    String words = "word%20".repeat(800);
    for (String path :
        List.of(
            "/api/customers?filter=",
            "/api/worklists/worked?filter=",
            "/api/find?q=",
            "/api/customers/doubles?name=")) {
      Bench.Times times = Bench.measure(i -> office.get(path + words));
      System.out.printf(
          "%-34s 800 words in the address: median %.1f ms, 95th %.1f ms%n",
          path, times.median(), times.percentile95());
    }
    // What is longer than any address is cut off by the web server.
    Bench.Times longest =
        Bench.measure(i -> office.get("/api/customers?filter=" + "word%20".repeat(3_500)));
    System.out.printf(
        "%-34s 3,500 words: median %.1f ms, 95th %.1f ms%n",
        "/api/customers?filter=", longest.median(), longest.percentile95());
  }

  @Test
  void hostile_files() throws IOException {
    RunningPragmata.untouched().stop();
    ServerProcess server =
        ServerProcess.start(
            RunningPragmata.untouchedDatabase(), "2026-11-24T10:42", new MailServer("", 1));
    try {
      Visitor office = Visitor.signedInAt(server.address(), "hester");
      // Until the heap has the size that such files need, it grows.
      for (int i = 0; i < FILES; i++) {
        sendAll(office);
      }
      long before = server.residentKilobytes();
      for (int i = 0; i < FILES; i++) {
        sendAll(office);
      }
      System.out.printf(
          "%nhostile files, each of them %d times, then as often again: resident %,d kB before, %,d kB after%n",
          FILES, before, server.residentKilobytes());
    } finally {
      server.kill();
    }
  }

  private static void sendAll(Visitor office) throws IOException {
    for (String cell :
        List.of(
            "<c r='ZZZZZZ2'><v>1</v></c>",
            "<c r='A2'><v>1e999999999</v></c>",
            "<c r='A2'><v>" + "1".repeat(2_000_000) + "</v></c>")) {
      byte[] workbook = workbook("<row r='2'>" + cell + "</row>");
      office.upload("/api/imports?kind=price_list", workbook);
    }
    office.putStream(
        "/api/equipment/91/photo",
        "image/jpeg",
        () -> new ByteArrayInputStream(new byte[25_000_000]));
    office.upload("/api/imports?kind=price_list", new byte[60_000_000]);
  }

  private static byte[] workbook(String rows) throws IOException {
    var bytes = new ByteArrayOutputStream();
    try (var zip = new ZipOutputStream(bytes)) {
      for (String[] part :
          new String[][] {
            {
              "[Content_Types].xml",
              "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'>"
                  + "<Override PartName='/xl/workbook.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml'/></Types>"
            },
            {
              "xl/workbook.xml",
              "<workbook xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main' xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'>"
                  + "<sheets><sheet name='List' sheetId='1' r:id='rId1'/></sheets></workbook>"
            },
            {
              "xl/_rels/workbook.xml.rels",
              "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'>"
                  + "<Relationship Id='rId1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet' Target='worksheets/sheet1.xml'/></Relationships>"
            },
            {
              "xl/worksheets/sheet1.xml",
              "<worksheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><sheetData>"
                  + rows
                  + "</sheetData></worksheet>"
            }
          }) {
        zip.putNextEntry(new ZipEntry(part[0]));
        zip.write(part[1].getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
      }
    }
    return bytes.toByteArray();
  }

  /** What a process holds of the machine's memory. */
  static long residentKilobytes(long processId) throws IOException {
    return Files.readAllLines(Path.of("/proc/%d/status".formatted(processId))).stream()
        .filter(line -> line.startsWith("VmRSS:"))
        .mapToLong(line -> Long.parseLong(line.replaceAll("\\D", "")))
        .findFirst()
        .orElseThrow();
  }
}

package app.pragmata.core.costing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Ten thousand jobs costed by the core, and by a LibreOffice Calc sheet with a row of formulas for
 * each: both give the same cost of every job. What the sheet needs without its formulas, for
 * starting, reading and writing, is taken off. Skipped where LibreOffice is not installed (Debian's
 * libreoffice-calc-nogui).
 */
@Tag("bench")
class CostSpreadsheetBenchTest {
  private static final int JOBS = 10_000;

  private static final String HEAD =
      """
      <?xml version="1.0" encoding="UTF-8"?>
      <office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
        xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
        xmlns:of="urn:oasis:names:tc:opendocument:xmlns:of:1.2" office:version="1.3"
        office:mimetype="application/vnd.oasis.opendocument.spreadsheet">
      <office:body><office:spreadsheet><table:table table:name="jobs">
      """;

  private static final String FOOT =
      "</table:table></office:spreadsheet></office:body></office:document>\n";

  @TempDir Path folder;

  @Test
  void ten_thousand_jobs_cost_the_same_in_a_spreadsheet_and_take_longer() throws Exception {
    assumeThat(Files.isExecutable(Path.of("/usr/bin/soffice"))).isTrue();
    List<JobFacts> jobs = IntStream.range(0, JOBS).mapToObj(CostSpreadsheetBenchTest::job).toList();
    double core = milliseconds(jobs);
    Path formulas = folder.resolve("formulas.fods");
    Path values = folder.resolve("values.fods");
    Files.writeString(formulas, sheet(true));
    Files.writeString(values, sheet(false));
    convert(values);
    double plain = convert(values);
    double whole = convert(formulas);
    assertThat(costs(folder.resolve("formulas.csv"))).isEqualTo(costs(jobs));
    System.out.printf(
        "10,000 jobs costed: the core %.1f ms, a LibreOffice Calc sheet %.0f ms (%.0f ms with starting, reading and writing), x %.0f%n",
        core, whole - plain, whole, (whole - plain) / core);
  }

  private static double milliseconds(List<JobFacts> jobs) {
    Costing costing = WorkedExample.costing();
    double best = Double.MAX_VALUE;
    for (int round = 0; round < 20; round++) {
      long start = System.nanoTime();
      jobs.forEach(costing::cost);
      best = Math.min(best, (System.nanoTime() - start) / 1e6);
    }
    return best;
  }

  private static List<String> costs(List<JobFacts> jobs) {
    Costing costing = WorkedExample.costing();
    return jobs.stream().map(job -> costing.cost(job).actualCost().major().toString()).toList();
  }

  private static List<String> costs(Path csv) throws IOException {
    try (var lines = Files.lines(csv)) {
      return lines
          .map(line -> new BigDecimal(line.substring(line.lastIndexOf(',') + 1)).setScale(2))
          .map(BigDecimal::toString)
          .toList();
    }
  }

  /**
   * Normal and overtime minutes, a drive with its miles, and two parts; each job a little other.
   */
  private static int[] minutes(int job) {
    return new int[] {155 + job % 240, 45 + job % 60, 40 + job % 50};
  }

  private static JobFacts job(int number) {
    int[] minutes = minutes(number);
    var times =
        List.of(
            WorkedExample.entry(1, TimeEntry.Kind.LABOUR, RateClass.NORMAL, minutes[0], "0"),
            WorkedExample.entry(1, TimeEntry.Kind.LABOUR, RateClass.OVERTIME, minutes[1], "0"),
            WorkedExample.entry(1, TimeEntry.Kind.DRIVE, RateClass.NORMAL, minutes[2], "18.4"));
    var parts = new ArrayList<PartUse>();
    for (String cost : List.of("212.40", "28.50")) {
      parts.add(
          new PartUse(
              0,
              1,
              "Part",
              BigDecimal.ONE,
              Money.of(cost),
              UnitPrice.of("1"),
              WorkedExample.STANDARD,
              false));
    }
    var visit =
        new VisitFacts(1, WorkedExample.DAY, Charging.WHOLE, times, List.copyOf(parts), List.of());
    return new JobFacts(List.of(), List.of(visit), List.of());
  }

  private static String sheet(boolean withFormulas) {
    var rows = new StringBuilder(HEAD);
    for (int job = 0; job < JOBS; job++) {
      int[] minutes = minutes(job);
      int row = job + 1;
      rows.append("<table:table-row>");
      for (String value :
          List.of(
              "19.60",
              "0.23",
              "1.5",
              "0.38",
              "18.4",
              "212.40",
              "28.50",
              String.valueOf(minutes[0]),
              String.valueOf(minutes[1]),
              String.valueOf(minutes[2]))) {
        rows.append(cell("office:value=\"" + value + "\""));
      }
      for (String formula :
          List.of(
              "ROUND([.H#]*[.A#]*(1+[.B#])/60;2)+ROUND([.I#]*[.A#]*(1+[.B#])*[.C#]/60;2)",
              "ROUND([.J#]*[.A#]*(1+[.B#])/60;2)+ROUND([.E#]*[.D#];2)",
              "[.F#]+[.G#]",
              "ROUND(([.H#]+[.I#])*6/60;2)",
              "[.K#]+[.L#]+[.M#]")) {
        rows.append(
            cell(
                withFormulas
                    ? "table:formula=\"of:=" + formula.replace("#", String.valueOf(row)) + "\""
                    : "office:value=\"1.25\""));
      }
      rows.append("</table:table-row>\n");
    }
    return rows.append(FOOT).toString();
  }

  private static String cell(String attribute) {
    return "<table:table-cell office:value-type=\"float\" " + attribute + "/>";
  }

  private double convert(Path sheet) throws Exception {
    long start = System.nanoTime();
    Process process =
        new ProcessBuilder(
                "/usr/bin/soffice",
                "-env:UserInstallation=file://" + folder.resolve("profile"),
                "--headless",
                "--convert-to",
                "csv",
                "--outdir",
                folder.toString(),
                sheet.toString())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("log").toFile())
            .start();
    assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
    return (System.nanoTime() - start) / 1e6;
  }
}

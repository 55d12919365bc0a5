package app.pragmata.core.costing;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.JobFacts;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;

/**
 * How long the core needs for the cost sheet and the invoice draft of the worked example; the floor
 * makes the same cost sheet in a loop on whole numbers.
 */
@State(Scope.Benchmark)
@Tag("bench")
public class CostSheetBenchTest {
  private final Costing costing = WorkedExample.costing();
  private final JobFacts job = WorkedExample.job();
  private final Billing billing = WorkedExample.billing();
  private final CostOnLongs onLongs = new CostOnLongs(costing);

  @Benchmark
  public CostSheet costSheet() {
    return costing.cost(job);
  }

  @Benchmark
  public Bill invoiceDraft() {
    return billing.bill(job, new TimeAndParts(), WorkedExample.cover());
  }

  @Benchmark
  public CostSheet costSheetOnLongs() {
    return onLongs.cost(job);
  }

  @Test
  void print_results() throws Exception {
    assertThat(onLongs.cost(job)).isEqualTo(costing.cost(job));
    var options =
        new OptionsBuilder()
            .include(CostSheetBenchTest.class.getSimpleName())
            .mode(Mode.AverageTime)
            .timeUnit(TimeUnit.MICROSECONDS)
            .forks(0)
            .warmupIterations(2)
            .warmupTime(TimeValue.seconds(2))
            .measurementIterations(3)
            .measurementTime(TimeValue.seconds(2))
            .build();
    Map<String, Double> microseconds =
        new Runner(options)
            .run().stream()
                .collect(
                    Collectors.toMap(
                        result -> result.getPrimaryResult().getLabel(),
                        result -> result.getPrimaryResult().getScore()));
    System.out.printf(
        "%-34s %5.2f us    a loop on whole numbers %5.2f us    x %.2f%n",
        "the cost sheet of a job",
        microseconds.get("costSheet"),
        microseconds.get("costSheetOnLongs"),
        microseconds.get("costSheet") / microseconds.get("costSheetOnLongs"));
  }
}

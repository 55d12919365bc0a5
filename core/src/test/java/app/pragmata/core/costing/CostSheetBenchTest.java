package app.pragmata.core.costing;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.JobFacts;
import java.util.concurrent.TimeUnit;
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
 * How many cost sheets and invoice drafts of the worked example the core computes in a second; the
 * floor adds up its facts.
 */
@State(Scope.Benchmark)
@Tag("bench")
public class CostSheetBenchTest {
  private final Costing costing = WorkedExample.costing();
  private final JobFacts job = WorkedExample.job();
  private final Billing billing = WorkedExample.billing();

  @Benchmark
  public CostSheet costSheet() {
    return costing.cost(job);
  }

  @Benchmark
  public Bill invoiceDraft() {
    return billing.bill(job, new TimeAndParts(), WorkedExample.cover());
  }

  @Benchmark
  public int floor() {
    return job.visits().getFirst().times().stream().mapToInt(entry -> entry.minutes()).sum();
  }

  @Test
  void print_results() throws Exception {
    var options =
        new OptionsBuilder()
            .include(CostSheetBenchTest.class.getSimpleName())
            .mode(Mode.Throughput)
            .timeUnit(TimeUnit.SECONDS)
            .forks(0)
            .warmupIterations(2)
            .warmupTime(TimeValue.seconds(2))
            .measurementIterations(3)
            .measurementTime(TimeValue.seconds(2))
            .build();
    new Runner(options).run();
  }
}

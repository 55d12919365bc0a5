package app.pragmata.core.books;

/**
 * What sales and costs are of, as cost accounting calls it: a job, by its id and the number that
 * people read, and the part of the company that answers for it.
 */
public record CostObject(long jobId, long jobNumber, String costCentre) {
  public CostObject {
    if (costCentre.isBlank()) {
      throw new IllegalArgumentException("Job " + jobNumber + " has no cost centre");
    }
  }
}

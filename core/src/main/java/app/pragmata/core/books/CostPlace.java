package app.pragmata.core.books;

import app.pragmata.core.Category;

/**
 * Where the cost of a job's work stands in the books, and where goes what is added after its
 * closing document.
 */
public enum CostPlace {
  /** No closing document has taken it out yet. */
  WORK_IN_PROGRESS,
  /** The job is billed. */
  COST_OF_SALES,
  /** The job is not charged. */
  WARRANTY_AND_GOODWILL,
  /** The job was called off. */
  WORK_CALLED_OFF;

  /** What the cost of this category is posted to. */
  PostingCategory postingCategory(Category category) {
    return switch (this) {
      case WORK_IN_PROGRESS -> PostingCategory.WORK_IN_PROGRESS;
      case COST_OF_SALES -> PostingCategory.costOfSales(category);
      case WARRANTY_AND_GOODWILL -> PostingCategory.WARRANTY_AND_GOODWILL;
      case WORK_CALLED_OFF -> PostingCategory.COST_OF_WORK_CALLED_OFF;
    };
  }
}

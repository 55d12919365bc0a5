/** What customers see of work: their page of a job, and the reports of its visits. */
@NullMarked
package app.pragmata.server.jobpages;

import org.jspecify.annotations.NullMarked;

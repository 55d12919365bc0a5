/** A job: what was promised, its visits, and what was worked, driven and fitted on them. */
@NullMarked
package app.pragmata.core.jobs;

import org.jspecify.annotations.NullMarked;

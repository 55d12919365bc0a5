/** What a job really cost, held against what was quoted. */
@NullMarked
package app.pragmata.core.costing;

import org.jspecify.annotations.NullMarked;

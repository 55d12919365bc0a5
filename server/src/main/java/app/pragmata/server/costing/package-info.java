/** The job sheet: what was promised, done and spent. */
@NullMarked
package app.pragmata.server.costing;

import org.jspecify.annotations.NullMarked;

/** Quotes from draft to job. */
@NullMarked
package app.pragmata.server.quoting;

import org.jspecify.annotations.NullMarked;

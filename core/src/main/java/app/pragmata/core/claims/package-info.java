/** What a manufacturer is asked to bear of work under its warranty. */
@NullMarked
package app.pragmata.core.claims;

import org.jspecify.annotations.NullMarked;

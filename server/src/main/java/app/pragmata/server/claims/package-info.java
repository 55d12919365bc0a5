/** What manufacturers are asked to bear of jobs under their warranty, and what became of it. */
@NullMarked
package app.pragmata.server.claims;

import org.jspecify.annotations.NullMarked;

/** Agreements with customers, and the jobs that their rounds make when they are due. */
@NullMarked
package app.pragmata.server.rounds;

import org.jspecify.annotations.NullMarked;

/** Lists from other programs: read, mapped, tried, then taken in whole or not at all. */
@NullMarked
package app.pragmata.server.importing;

import org.jspecify.annotations.NullMarked;

/** Parts that jobs wait for. */
@NullMarked
package app.pragmata.core.partswanted;

import org.jspecify.annotations.NullMarked;

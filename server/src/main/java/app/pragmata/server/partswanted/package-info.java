/** Parts that jobs wait for, from the moment somebody says so until they are fitted. */
@NullMarked
package app.pragmata.server.partswanted;

import org.jspecify.annotations.NullMarked;

/** Pictures that come from outside, read with care and written anew. */
@NullMarked
package app.pragmata.server.pictures;

import org.jspecify.annotations.NullMarked;

/** A job on one sheet, from promise to books. */
@NullMarked
package app.pragmata.server.sheet;

import org.jspecify.annotations.NullMarked;

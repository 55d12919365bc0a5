/** What is gone through and measured on site. */
@NullMarked
package app.pragmata.core.checklists;

import org.jspecify.annotations.NullMarked;

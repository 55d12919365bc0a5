/** Numbers without gaps, the trail of changes, and requests that can be repeated safely. */
@NullMarked
package app.pragmata.server.records;

import org.jspecify.annotations.NullMarked;

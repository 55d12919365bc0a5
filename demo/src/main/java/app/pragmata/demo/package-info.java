/** Ferrow Gate & Shutter, the invented company of the demo. */
@NullMarked
package app.pragmata.demo;

import org.jspecify.annotations.NullMarked;

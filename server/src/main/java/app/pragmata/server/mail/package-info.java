/** Mail on its way out, and the stand-in that takes it in the demo. */
@NullMarked
package app.pragmata.server.mail;

import org.jspecify.annotations.NullMarked;

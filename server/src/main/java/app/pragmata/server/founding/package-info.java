/** What any company needs before its first quote, made from a template of its country. */
@NullMarked
package app.pragmata.server.founding;

import org.jspecify.annotations.NullMarked;

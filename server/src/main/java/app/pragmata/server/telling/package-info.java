/**
 * What people are told of visits: customers by mail or text message, technicians' own calendars.
 */
@NullMarked
package app.pragmata.server.telling;

import org.jspecify.annotations.NullMarked;

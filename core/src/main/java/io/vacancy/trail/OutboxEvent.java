// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.time.Instant;

/**
 * Something that was done, for other systems to follow.
 *
 * @param number in the order of the outbox
 * @param id the identifier of the event, that of its entry in the trail; an event that is passed on twice has the same
 * @param content the event in the JSON format of CloudEvents 1.0
 */
public record OutboxEvent(long number, String id, Instant at, String content) {}

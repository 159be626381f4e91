// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.trail.OutboxEvent;

/** Takes the events of the outbox, where a job of the upkeep {@code pass-on} is ordered. */
@FunctionalInterface
public interface OutboxReader {

    /** One event, at least once; where it throws, that one comes again. */
    void take(OutboxEvent event);
}

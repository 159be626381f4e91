// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.outcome.Receipt;
import io.vacancy.trail.TrailEntry;
import org.jspecify.annotations.Nullable;

/**
 * What is kept of an execution, in its own transaction.
 *
 * @param receipt of this part
 * @param entry for the trail; null where it is told nothing
 * @param outbox the source that an event for other systems names; null where none is wanted
 */
public record Records(
        Receipt receipt,
        @Nullable TrailEntry entry,
        @Nullable String outbox) {}

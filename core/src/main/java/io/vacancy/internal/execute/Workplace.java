// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.spi.Store;

/** A store, and what follows the outcomes on it. */
public record Workplace(Store store, OutcomePublisher publisher) {}

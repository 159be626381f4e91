package io.vacancy.internal.execute;

import io.vacancy.spi.Store;

/** A store, and what follows the outcomes on it. */
public record Workplace(Store store, OutcomePublisher publisher) {}

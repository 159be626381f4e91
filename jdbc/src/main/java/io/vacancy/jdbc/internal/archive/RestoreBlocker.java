package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.spi.Sql;
import org.jspecify.annotations.Nullable;

/**
 * What may stand in the way of images that are to become rows again.
 *
 * @param relation through which it does, or null where it is about the rows themselves
 * @param which what holds for such a row t of the stage
 * @param hidden whether who asks may not be told of the rows
 */
record RestoreBlocker(StagingTable stage, @Nullable String relation, Sql which, String reason, boolean hidden) {}

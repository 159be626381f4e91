package io.vacancy;

import org.jspecify.annotations.Nullable;

/**
 * In whose name something is done, and under which receipt.
 *
 * @param why in the words of who asked, or null
 */
record Signature(String actor, @Nullable String why, String receipt) {}

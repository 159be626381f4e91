package io.vacancy;

import io.vacancy.archive.ReceiptId;
import org.jspecify.annotations.Nullable;

/**
 * In whose name something is done.
 *
 * @param continued the receipt that it is a further part of, or null
 */
record Attribution(String actor, @Nullable ReceiptId continued) {}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.archive.ReceiptId;
import org.jspecify.annotations.Nullable;

/**
 * In whose name something is done.
 *
 * @param continued the receipt that it is a further part of, or null
 * @param part which part of it, where the caller numbers them; else 0
 * @param keysInTrail how many keys of an effect the trail is told
 * @param digests whether the trail is told digests of images
 * @param encrypts whether what is personal is encrypted where it is archived
 */
public record Attribution(
        String actor, @Nullable ReceiptId continued, int part, int keysInTrail, boolean digests, boolean encrypts) {}

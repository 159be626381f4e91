// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

/**
 * The identity that a caller gave a request, as it is kept with the first receipt.
 *
 * @param id the identity
 * @param actor who asked
 * @param digest of all that the request says but its reason
 */
public record RequestKey(String id, String actor, String digest) {}

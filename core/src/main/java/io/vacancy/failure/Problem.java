// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/**
 * Something about a rule book and its database that somebody should know.
 *
 * @param error whether it makes the rule book unusable
 * @param place where in the rule book, or null
 */
public record Problem(
        boolean error, String message, @Nullable SourceLocation place) {

    @Override
    public String toString() {
        return (place == null ? "" : place + ": ") + message;
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/** The rule book is wrong in itself or does not fit the database; it cannot be used until mended. */
public final class RuleBookException extends VacancyException {

    public RuleBookException(String message, @Nullable String hint) {
        super(message, hint);
    }

    @Override
    public String kind() {
        return "rule-book";
    }
}

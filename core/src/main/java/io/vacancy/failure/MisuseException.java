// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/** An unknown name, an impossible value, or parts of a request that do not go together. */
public sealed class MisuseException extends VacancyException permits NotSetUpException {

    public MisuseException(String message) {
        super(message, null, null);
    }

    public MisuseException(String message, @Nullable String hint) {
        super(message, hint, null);
    }

    @Override
    public String kind() {
        return "misuse";
    }
}

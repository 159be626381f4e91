// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/** Somebody cancelled what was going on; it was rolled back whole. */
public final class CancelledException extends VacancyException {

    /** @param during what was being done, such as "removing rows of" */
    public CancelledException(String during, @Nullable Throwable cause) {
        super("Cancelled while " + during + ". Nothing was changed.", null, cause);
    }

    @Override
    public String kind() {
        return "cancelled";
    }
}

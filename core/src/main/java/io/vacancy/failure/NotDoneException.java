// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

/** Somebody asked an outcome for its receipt, and nothing had been carried out. */
public final class NotDoneException extends VacancyException {

    public NotDoneException(String message) {
        super(message, null, null);
    }

    @Override
    public String kind() {
        return "not-done";
    }
}

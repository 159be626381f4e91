// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

/**
 * The audit history in the database is not the one that was sealed last, so nothing more is sealed: whoever took seals
 * away would have what is left signed by the application.
 */
public final class TrailIntegrityException extends VacancyException {

    public TrailIntegrityException(String message, String hint) {
        super(message, hint, null);
    }

    @Override
    public String kind() {
        return "trail-integrity";
    }
}

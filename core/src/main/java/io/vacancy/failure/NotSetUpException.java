// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

/** Something needs Vacancy's own tables, and they are not set up in the database, or not of the version that is needed. */
public final class NotSetUpException extends MisuseException {

    public NotSetUpException(String message, String hint) {
        super(message, hint);
    }

    /** They are not there. */
    public NotSetUpException() {
        this(
                "Vacancy's own tables are not set up in this database, so nothing is archived and no history is kept.",
                "Set them up once, by archive().setUp().");
    }
}

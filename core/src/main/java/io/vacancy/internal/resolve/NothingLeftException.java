// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

/** Under a receipt nothing is left of what a request means. To whoever was shown something it is a change; else misuse. */
public final class NothingLeftException extends RuntimeException {

    private final String hint;

    NothingLeftException(String message, String hint) {
        super(message);
        this.hint = hint;
    }

    public String hint() {
        return hint;
    }
}
